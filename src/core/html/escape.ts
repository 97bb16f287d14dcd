const special: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Text made safe inside HTML text and quoted attribute values. */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => special[c] ?? c);

/**
 * Everything beyond ASCII as numeric character references, so that the text is right in any ASCII-compatible encoding.
 * U+F700 to U+F7FF stand for raw bytes of a page (source.ts) and stay.
 */
export const asciiHtml = (html: string): string =>
  html.replace(/[\u{80}-\u{f6ff}\u{f800}-\u{10ffff}]/gu, (c) => `&#${c.codePointAt(0)};`);
