import sanitizeHtml from 'sanitize-html';
import { escapeHtml } from '../../core/html/escape';

/** What a description may hold: text with its structure, lists, links and tables; nothing that runs, loads or styles. */
const allowed: sanitizeHtml.IOptions = {
  allowedTags: [
    'p',
    'br',
    'strong',
    'em',
    'u',
    's',
    'h3',
    'h4',
    'ul',
    'ol',
    'li',
    'a',
    'blockquote',
    'code',
    'sub',
    'sup',
    'table',
    'thead',
    'tbody',
    'tr',
    'th',
    'td',
    'hr',
  ],
  allowedAttributes: {
    a: ['href', 'rel'],
    th: ['scope', 'colspan', 'rowspan'],
    td: ['colspan', 'rowspan'],
    ol: ['start'],
  },
  allowedSchemes: ['http', 'https', 'mailto', 'tel'],
  allowedSchemesAppliedToAttributes: ['href'],
  disallowedTagsMode: 'discard',
  transformTags: {
    b: 'strong',
    i: 'em',
    h1: 'h3',
    h2: 'h3',
    h5: 'h4',
    h6: 'h4',
    a: (tag, attribs) => ({
      tagName: tag,
      attribs:
        attribs.href && /^https?:/i.test(attribs.href)
          ? { href: attribs.href, rel: 'noopener' }
          : { ...(attribs.href && { href: attribs.href }) },
    }),
  },
};

/** Only tags that are allowed, none with attributes: clean as it stands. Nearly all descriptions are. */
const clean =
  /^(?:[^<>]|<\/?(?:p|strong|em|u|s|h3|h4|ul|ol|li|blockquote|code|sub|sup|table|thead|tbody|tr|th|td)>|<(?:br|hr) ?\/?>)*$/;

/** Cleaned until cleaning changes nothing more: unbalanced tags take one or two readings to find their shape. What never settles is told as its words alone. */
function settled(html: string): string {
  let kept = html;
  for (let reading = 0; reading < 8; reading++) {
    const next = sanitizeHtml(kept, allowed).trim();
    if (next === kept) return kept;
    kept = next;
  }
  return escapeHtml(plainText(kept));
}

/** Text as HTML: what was written as plain text gets its paragraphs, what came as HTML is cleaned of all that could do harm. */
export function richText(text: string): string {
  const written = text.trim();
  if (written === '') return '';
  if (!/<[a-z!/]/i.test(written))
    return written
      .split(/\n{2,}/)
      .map((p) => `<p>${escapeHtml(p.trim()).replace(/\n/g, '<br />')}</p>`)
      .join('');
  if (clean.test(written)) return written;
  const kept = settled(written);
  // Text that lost all its tags is still HTML: in a paragraph it is known as such when it is read again.
  return kept && !/<[a-z]/i.test(kept) ? `<p>${kept}</p>` : kept;
}

const named: Readonly<Record<string, string>> = {
  lt: '<',
  gt: '>',
  quot: '"',
  amp: '&',
  apos: "'",
  nbsp: '\u00a0',
};

/** The words of clean HTML alone, blocks apart by a space; for cards, search and descriptions of pages. Escaped again wherever it is shown. */
export function plainText(html: string): string {
  const bare = html
    .replace(/<\/?(?:p|h\d|li|blockquote|td|th|tr|br|hr)\b[^>]*>/gi, ' ')
    .replace(/<[^>]*>/g, '');
  return bare
    .replace(
      /&(?:#(\d{1,7})|#x([\da-f]{1,6})|(\w{2,6}));/gi,
      (all, dec?: string, hex?: string, name?: string) =>
        name
          ? (named[name.toLowerCase()] ?? all)
          : codePoint(dec ? Number(dec) : Number.parseInt(hex ?? '', 16)),
    )
    .replace(/\s+/g, ' ')
    .trim();
}

const codePoint = (n: number): string => (n > 0 && n <= 0x10ffff ? String.fromCodePoint(n) : '');
