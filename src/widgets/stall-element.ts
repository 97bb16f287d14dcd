import { pageData, type PageData } from './page-data';

/**
 * What all widgets share. The shadow root is made only when there is something to show: until then the link inside the
 * element stands, so a page without script, or with a shop that does not answer, still sells.
 */
export abstract class StallElement extends HTMLElement {
  #life: AbortController | undefined;

  get shop(): string {
    return (this.getAttribute('shop') ?? '').replace(/\/$/, '');
  }

  /** Moving an element in the page disconnects and connects it: each life has its own signal. */
  connectedCallback(): void {
    this.#life?.abort();
    const life = new AbortController();
    this.#life = life;
    pageData(this.shop, this.getAttribute('goods') ?? '').then(
      (data) => {
        if (!life.signal.aborted) this.show(data, life.signal);
      },
      (error: unknown) => console.warn(error),
    );
  }

  disconnectedCallback(): void {
    this.#life?.abort();
  }

  protected abstract show(data: PageData, signal: AbortSignal): void;

  /** The root with our style and the site's look; constructed style sheets pass a strict content security policy. */
  protected root(css: string, look: string): ShadowRoot {
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(`:host{${look}}${css}`);
    root.adoptedStyleSheets = [sheet];
    return root;
  }
}
