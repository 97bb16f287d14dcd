import { createServer, type RequestListener, type Server } from 'node:http';
import { connected } from '../../src/server/client-address';
import type { AddressInfo } from 'node:net';
import { build } from 'esbuild';
import { lookup } from 'mrmime';
import type { Browser } from 'playwright-core';
import { draftListener } from '../../src/server/draft/listener';
import { PreparedAnswers } from '../../src/server/public/prepared';
import { loadWidgets } from '../../src/server/public/widget-files';
import { publicListener } from '../../src/server/public/listener';
import type { SeenPage } from '../../src/core/checks/seen';
import type { Checked } from '../../src/services/checks/compute';
import { betterSpot } from '../../src/core/checks/cart-spot';
import type { Added } from '../../src/services/sites/add-selling';
import { toCartSpot } from '../../src/services/sites/cart-spot';
import { keepSeen } from '../../src/services/checks/seen';
import { currentPublication } from '../../src/services/sites/site';
import { CheckedShop } from './checked-shop';

/** A checked shop whose draft and widgets answer, so that a browser can look at its pages as the office's does. */
export class SeenShop {
  private constructor(
    readonly shop: CheckedShop,
    private readonly browser: Browser,
    private readonly office: string,
    private readonly liveUrl: string,
    private readonly servers: readonly Server[],
  ) {}

  /**
   * @param files of the site, by path
   * @param settles whether the cart goes where there is room, as it does in the office; a site that is broken was not so when it was placed
   */
  static async open(
    files: Readonly<Record<string, string | Uint8Array>>,
    browser: Browser,
    { settles = true } = {},
  ): Promise<SeenShop> {
    const shop = await CheckedShop.open(files, { sells: false });
    const { ctx } = shop.world;
    const answering: RequestListener[] = [];
    // Addresses are known before what answers there.
    const servers = await Promise.all(
      [0, 1, 2, 3].map((n) => listening((req, res) => void answering[n]?.(req, res))),
    );
    const [office = 0, shopPort = 0, draft = 0, live = 0] = servers.map(
      (s) => (s.address() as AddressInfo).port,
    );
    Object.assign(ctx.addresses, {
      office: `http://localhost:${office}`,
      shop: `http://shop.localhost:${shopPort}`,
      draft: (key: string) => `http://${key}.localhost:${draft}`,
    });
    const { files: widgets, frame } = await loadWidgets('dist/widgets', ctx.addresses.shop);
    const looking = await lookingScript();
    answering.push(
      (req, res) => {
        const isScript = req.url === '/see.js';
        res.setHeader('content-type', isScript ? 'text/javascript' : 'text/html');
        res.end(isScript ? looking : '<!doctype html><title>office</title><script src="/see.js"></script>');
      },
      publicListener(ctx, {
        files: widgets,
        answers: new PreparedAnswers(),
        writesPerMinute: undefined,
        clientOf: connected,
      }),
      draftListener(ctx, frame),
      liveListener(shop),
    );
    const liveUrl = `http://live.localhost:${live}/`;
    const { cart } = await shop.sell();
    const open = new SeenShop(shop, browser, ctx.addresses.office, liveUrl, servers);
    if (cart && settles) await open.settle(cart);
    return open;
  }

  /** The cart goes where there is room, as it does in the office. */
  private async settle({ placement, pages }: NonNullable<Added['cart']>): Promise<void> {
    const { ctx } = this.shop.world;
    for (const path of pages)
      for (const { at } of await this.seen([{ path, version: '', built: false }])) {
        const n = betterSpot(at, placement);
        // Where it cannot go there it stands where it stood, as in the office.
        if (n !== undefined)
          await toCartSpot(ctx, await this.shop.site(), { placement, page: path, n }).catch(() => undefined);
      }
  }

  /** What the checks say after a browser looked at the pages that they want looked at. */
  async look(): Promise<Checked> {
    const { toSee } = await this.shop.check();
    await keepSeen(this.shop.world.ctx, await this.shop.site(), await this.seen(toSee));
    return this.shop.check();
  }

  private async seen(pages: readonly Checked['toSee'][number][]): Promise<SeenPage[]> {
    const { row } = await this.shop.site();
    const page = await this.browser.newPage({ viewport: { width: 1280, height: 800 } });
    // Nothing comes from elsewhere, and nothing is waited for.
    await page.route(
      (url) => !/(^|\.)localhost$/.test(url.hostname),
      (route) => route.abort(),
    );
    try {
      await page.goto(this.office);
      return await page.evaluate(
        async ([url, wanted]) => {
          const all: unknown[] = [];
          const { seePages } = (
            window as unknown as { looking: typeof import('../../src/office/ui/see-pages') }
          ).looking;
          for await (const one of seePages(url, wanted, new AbortController().signal)) all.push(one);
          return all as SeenPage[];
        },
        [this.shop.world.ctx.addresses.draft(row.draftKey), pages] as const,
      );
    } finally {
      await page.close();
    }
  }

  /** Publishes. @returns where shoppers find it */
  async goLive(): Promise<string> {
    await this.shop.setRow({ liveUrl: this.liveUrl });
    await this.shop.publish();
    return this.liveUrl;
  }

  async end(): Promise<void> {
    for (const s of this.servers) {
      s.closeAllConnections();
      s.close();
    }
    await this.shop.end();
  }
}

/** What was published, as a host of plain files has it. */
function liveListener(shop: CheckedShop): RequestListener {
  const { ctx } = shop.world;
  return (req, res) => {
    const path = decodeURIComponent(new URL(req.url ?? '/', 'http://x').pathname).slice(1) || 'index.html';
    void (async () => {
      const publication = await currentPublication(ctx, (await shop.site()).row);
      const hash = publication?.manifest[path.replace(/\/$/, '/index.html')];
      if (!hash) return void res.writeHead(404).end();
      res.setHeader('content-type', lookup(path) ?? 'text/html');
      res.end(await ctx.blobs.get(hash));
    })();
  };
}

async function listening(listener: RequestListener): Promise<Server> {
  const server = createServer(listener);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return server;
}

let built: Promise<string> | undefined;
/** The office's own script that looks at pages of a draft. */
const lookingScript = (): Promise<string> =>
  (built ??= build({
    stdin: {
      contents: "export { seePages } from './src/office/ui/see-pages';",
      resolveDir: process.cwd(),
      loader: 'ts',
    },
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'looking',
  }).then((out) => out.outputFiles[0]?.text ?? ''));
