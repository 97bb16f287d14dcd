import { escapeHtml } from '../html/escape';
import type { PrintLook } from '../look/print-look';
import type { LetterKind, LetterRules } from './kinds';
import { letterFacts } from './kinds';
import { lettersIn } from '../languages/languages';

/** What stands in the braces: text as it is, goods as rows, ways as addresses that can be followed. */
export interface LetterFigures {
  readonly text: Readonly<Record<string, string>>;
  readonly goods: readonly { readonly name: string; readonly amount: string }[];
  /** Names whose text is an address. */
  readonly links: readonly string[];
}

export interface Written {
  readonly subject: string;
  readonly text: string;
  readonly html: string;
}

/** Whether a letter goes out, its words, and its days: the owner's, or the usual ones in the site's language. */
export function letterOf(
  kind: LetterKind,
  rules: LetterRules,
  lang: string,
): { readonly on: boolean; readonly subject: string; readonly text: string; readonly days: number | null } {
  const usual = lettersIn(lang)[kind];
  const own = rules[kind];
  return {
    on: own?.on ?? letterFacts[kind].usual,
    subject: own?.subject || usual.subject,
    text: own?.text || usual.text,
    days: own?.days ?? letterFacts[kind].days,
  };
}

const FIELD = /\{(\w+)\}/g;

/** A line that only says something with its figures, and has none of them, is left out. */
function keeps(line: string, value: (name: string) => string): boolean {
  const names = [...line.matchAll(FIELD)].map((m) => m[1] ?? '');
  return names.length === 0 || names.some((name) => value(name) !== '');
}

const goodsText = (f: LetterFigures): string => f.goods.map((g) => `${g.name}: ${g.amount}`).join('\n');

/** Fills a letter, in the shop's look where that is known. The text is for every mail program (RFC 5322, plain); the HTML says the same, with goods as a table. */
export function writeLetter(
  { subject, text }: { readonly subject: string; readonly text: string },
  f: LetterFigures,
  look?: PrintLook,
): Written {
  const value = (name: string): string => (name === 'goods' ? goodsText(f) : (f.text[name] ?? ''));
  const filled = (line: string, of = value) => line.replace(FIELD, (_, name: string) => of(name));
  const blocks = text
    .replace(/\r\n?/g, '\n')
    .split(/\n{2,}/)
    .map((block) => block.split('\n').filter((line) => keeps(line, value)))
    .filter((lines) => lines.some((l) => l.trim()));
  const plain = blocks.map((lines) => lines.map((l) => filled(l)).join('\n')).join('\n\n');
  const inHtml = (name: string): string =>
    f.links.includes(name) && value(name)
      ? `<a href="${escapeHtml(value(name))}">${escapeHtml(value(name))}</a>`
      : escapeHtml(value(name)).replace(/\n/g, '<br>');
  // The owner's own words are text, whatever stands in them.
  const html = blocks
    .map((lines) =>
      lines.length === 1 && lines[0]?.trim() === '{goods}'
        ? goodsHtml(f)
        : `<p>${lines.map((l) => filledHtml(l, inHtml)).join('<br>')}</p>`,
    )
    .join('\n');
  // A subject is one line: a name with a line break in it must not begin a header of its own.
  return { subject: filled(subject).replace(/\s+/g, ' ').trim(), text: `${plain}\n`, html: page(html, look) };
}

function filledHtml(line: string, of: (name: string) => string): string {
  return line
    .split(FIELD)
    .map((part, n) => (n % 2 === 1 ? of(part) : escapeHtml(part)))
    .join('');
}

const goodsHtml = (f: LetterFigures): string =>
  `<table role="presentation" cellpadding="0" cellspacing="0" style="border-collapse:collapse;width:100%">${f.goods.map((g) => `<tr><td style="padding:6px 12px 6px 0;border-top:1px solid #ddd8cc">${escapeHtml(g.name)}</td><td style="padding:6px 0;border-top:1px solid #ddd8cc;text-align:right;white-space:nowrap">${escapeHtml(g.amount)}</td></tr>`).join('')}</table>`;

/** Mail programs read style attributes, and little else. */
function page(body: string, look?: PrintLook): string {
  const { font, ink, mark } = look ?? { font: 'Georgia,serif', ink: '#22261f', mark: '' };
  const linked = mark ? body.replaceAll('<a href=', `<a style="color:${mark}" href=`) : body;
  return `<!doctype html><html><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"></head><body style="margin:0;padding:24px;font:16px/1.5 ${font};color:${ink};background:#fff"><div style="max-width:34rem;margin:0 auto">${linked}</div></body></html>`;
}
