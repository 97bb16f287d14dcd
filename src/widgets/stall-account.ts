import type { PageData } from './page-data';
import { taken } from './shared';

const { StallElement } = taken();

const css = `a{color:inherit;font:inherit;text-decoration:inherit;display:inline-block;min-height:2.75rem}a:hover{text-decoration:underline}a:focus-visible{outline:3px solid currentColor;outline-offset:2px}svg{vertical-align:middle}`;
const figure =
  '<svg width="22" height="22" viewBox="0 0 26 26" fill="none" stroke="currentColor" stroke-width="1.9" aria-hidden="true"><path d="M6 4h14v18l-3.5-2-3.5 2-3.5-2L6 22z" stroke-linejoin="round"/><path d="M10 9.5h6M10 14h6"/></svg>';

/** The way to a shopper's own orders. It wears the links around it. Attributes: shop, account, form, text, lang. */
export class StallAccount extends StallElement {
  static readonly observedAttributes = ['form', 'text'];

  protected show({ words, look }: PageData): void {
    const link = document.createElement('a');
    link.part.add('link');
    const own = this.querySelector('a');
    link.href = own?.href || this.way('account') || `${this.shop}/account`;
    const text = this.getAttribute('text') || words.account;
    if (this.getAttribute('form') === 'icon') {
      link.innerHTML = figure;
      link.setAttribute('aria-label', text);
    } else link.textContent = text;
    this.root(css, look).replaceChildren(link);
  }
}
