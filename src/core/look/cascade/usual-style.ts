import { attr, type Element } from '../../html/tree';

/**
 * What browsers show where a page says nothing (HTML Standard, 15 "Rendering", and what Chromium does for controls, from memory):
 * a few properties that a look is made of.
 */
const heading = (size: number): Record<string, string> => ({
  display: 'block',
  'font-size': `${size}em`,
  'font-weight': 'bold',
});
const block = { display: 'block' };
const bold = { 'font-weight': 'bold' };
const italic = { 'font-style': 'italic' };
const mono = { 'font-family': 'monospace', 'font-size': '13px' };
const gone = { display: 'none' };

const control: Record<string, string> = {
  display: 'inline-block',
  'font-family': 'Arial',
  'font-size': '13.3333px',
  'font-weight': 'normal',
  'font-style': 'normal',
  'letter-spacing': 'normal',
  'text-transform': 'none',
  'line-height': 'normal',
};
const edge = (style: string, colour: string): Record<string, string> =>
  Object.fromEntries(
    ['top', 'right', 'bottom', 'left'].flatMap((side) => [
      [`border-${side}-width`, '2px'],
      [`border-${side}-style`, style],
      [`border-${side}-color`, colour],
    ]),
  );
const padding = (y: string, x: string): Record<string, string> => ({
  'padding-top': y,
  'padding-right': x,
  'padding-bottom': y,
  'padding-left': x,
});
const button = {
  ...control,
  ...edge('outset', '#767676'),
  ...padding('1px', '6px'),
  color: '#000000',
  'background-color': '#efefef',
};
const field = {
  ...control,
  ...edge('inset', '#767676'),
  ...padding('1px', '2px'),
  color: '#000000',
  'background-color': '#ffffff',
};

const byTag: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  ...Object.fromEntries(
    'html body address article aside blockquote center details dialog dd div dl dt fieldset figcaption figure footer form header hgroup hr legend main nav ol p pre search section summary ul li table tr td tbody'
      .split(' ')
      .map((tag) => [tag, block]),
  ),
  ...Object.fromEntries(
    'head script style title meta link template noscript base datalist source track area param'
      .split(' ')
      .map((tag) => [tag, gone]),
  ),
  // A blank line of their own size above and below.
  ...Object.fromEntries(
    ['p', 'ul', 'ol', 'dl', 'figure', 'blockquote'].map((tag) => [tag, { ...block, 'margin-bottom': '1em' }]),
  ),
  h1: heading(2),
  h2: heading(1.5),
  h3: heading(1.17),
  h4: heading(1),
  h5: heading(0.83),
  h6: heading(0.67),
  b: bold,
  strong: bold,
  th: { ...block, ...bold },
  i: italic,
  em: italic,
  cite: italic,
  dfn: italic,
  small: { 'font-size': 'smaller' },
  big: { 'font-size': 'larger' },
  sub: { 'font-size': 'smaller' },
  sup: { 'font-size': 'smaller' },
  code: mono,
  kbd: mono,
  samp: mono,
  button,
  textarea: { ...field, 'font-family': 'monospace' },
  select: { ...field, ...edge('solid', '#767676'), ...padding('0px', '0px') },
};

const link = { color: '#0000ee', 'text-decoration-line': 'underline' };
const pressed = new Set(['submit', 'button', 'reset']);
const unseen = new Set(['hidden', 'image', 'checkbox', 'radio', 'range', 'color', 'file']);

/** The usual style of an element. */
export function usualStyle(el: Element): Readonly<Record<string, string>> {
  if (el.tagName === 'a' && attr(el, 'href') !== undefined) return link;
  if (el.tagName === 'input') {
    const type = (attr(el, 'type') ?? 'text').toLowerCase();
    if (type === 'hidden') return gone;
    if (pressed.has(type)) return button;
    return unseen.has(type) ? control : field;
  }
  const hidden = attr(el, 'hidden') !== undefined ? gone : {};
  return { ...byTag[el.tagName], ...hidden };
}
