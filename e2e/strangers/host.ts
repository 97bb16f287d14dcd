import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/**
 * A host of the kind that only its own editor can write: pages without endings in their addresses, those with one lead on. Its owner pastes,
 * here as there, by putting text into a page.
 */
export class PasteHost {
  readonly #server: Server;
  readonly #pages = new Map<string, string>();
  readonly #files = new Map<string, string>();
  url = '';

  constructor(files: Readonly<Record<string, string>>) {
    for (const [path, text] of Object.entries(files))
      if (/\.html?$/.test(path)) this.#pages.set(addressOf(path), text);
      else this.#files.set(`/${path}`, text);
    this.#server = createServer((req, res) => {
      const { pathname } = new URL(req.url ?? '/', 'http://host.invalid');
      const bare = addressOf(pathname.slice(1));
      const page = this.#pages.get(pathname);
      const file = this.#files.get(pathname);
      if (page !== undefined) res.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page);
      else if (file !== undefined) res.writeHead(200, { 'content-type': typeOf(pathname) }).end(file);
      else if (this.#pages.has(bare)) res.writeHead(301, { location: bare }).end();
      else res.writeHead(404, { 'content-type': 'text/html' }).end('<h1>Not here</h1>');
    });
  }

  async open(): Promise<this> {
    await new Promise<void>((ready) => this.#server.listen(0, '127.0.0.1', ready));
    this.url = `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}/`;
    return this;
  }

  async close(): Promise<void> {
    await new Promise<void>((closed) => {
      this.#server.close(() => closed());
      this.#server.closeAllConnections();
    });
  }

  /** All pages as they are now, by address. */
  get pages(): Readonly<Record<string, string>> {
    return Object.fromEntries(this.#pages);
  }

  change(address: string, edit: (page: string) => string): void {
    this.#pages.set(address, edit(this.#pages.get(address) ?? ''));
  }

  /** Code for the foot of every page. */
  paste(code: string): void {
    for (const address of this.#pages.keys())
      this.change(address, (page) => page.replace(/<\/body>|$/, `${code}\n$&`));
  }

  /** A page like another with nothing in its main part. @param main what stands there; has to have a place of its own */
  addPage(address: string, like: string, title: string): void {
    const page = this.#pages.get(like) ?? '';
    const [, main = ''] = /(<main[^>]*>[\s\S]*<\/main>)/.exec(page) ?? [];
    if (!main) throw new Error(`${like} has no main part`);
    this.#pages.set(
      address,
      page
        .replace(main, `<main><h1>${title}</h1>\n<div class="block"></div></main>`)
        .replace(/<title>[^<]*/, `<title>${title}`),
    );
  }

  removePage(address: string): void {
    this.#pages.delete(address);
  }
}

const addressOf = (path: string): string =>
  `/${path.replace(/(^|\/)index\.html?$/, '$1').replace(/\.html?$/, '')}`;
const typeOf = (path: string): string => {
  if (path.endsWith('.css')) return 'text/css';
  return path.endsWith('.js') ? 'text/javascript' : 'application/octet-stream';
};
