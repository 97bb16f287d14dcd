import sanitizeHtml from 'sanitize-html';
import { escapeHtml } from '../../core/html/escape';

/** What a description may hold: text with its structure, lists, links and tables; nothing that runs, loads or styles. */
const allowed: sanitizeHtml.IOptions = {
  allowedTags: ['p', 'br', 'strong', 'em', 'u', 's', 'h3', 'h4', 'ul', 'ol', 'li', 'a', 'blockquote', 'code', 'sub', 'sup', 'table', 'thead', 'tbody', 'tr', 'th', 'td', 'hr'],
  allowedAttributes: { a: ['href', 'rel'], th: ['scope', 'colspan', 'rowspan'], td: ['colspan', 'rowspan'], ol: ['start'] },
  allowedSchemes: ['http', 'https', 'mailto', 'tel'],
  allowedSchemesAppliedToAttributes: ['href'],
  disallowedTagsMode: 'discard',
  transformTags: {
    b: 'strong', i: 'em', h1: 'h3', h2: 'h3', h5: 'h4', h6: 'h4',
    a: (tag, attribs) => ({ tagName: tag, attribs: attribs.href && /^https?:/i.test(attribs.href) ? { href: attribs.href, rel: 'noopener' } : { ...(attribs.href && { href: attribs.href }) } }),
  },
};

/** Text as HTML: what was written as plain text gets its paragraphs, what came as HTML is cleaned of all that could do harm. */
export function richText(text: string): string {
  const written = text.trim();
  if (written === '') return '';
  if (!/<[a-z!/]/i.test(written)) return written.split(/\n{2,}/).map((p) => `<p>${escapeHtml(p.trim()).replace(/\n/g, '<br />')}</p>`).join('');
  return sanitizeHtml(written, allowed).trim();
}

/** The words alone, blocks apart by a space; for cards, search and descriptions of pages. */
export function plainText(html: string): string {
  const spaced = html.replace(/<\/(p|h\d|li|blockquote|td|th|tr)>|<(br|hr)\b[^>]*>/gi, ' $&');
  return sanitizeHtml(spaced, { allowedTags: [], allowedAttributes: {}, textFilter: (t) => t.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&quot;/g, '"').replace(/&amp;/g, '&') }).replace(/\s+/g, ' ').trim();
}
