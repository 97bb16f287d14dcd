import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { makeWorld, type World } from '../../src/services/testing';
import { type Added, addSelling } from '../../src/services/sites/add-selling';
import { bringIn } from '../../src/services/sites/bring-in';
import { place } from '../../src/services/sites/placing';
import { currentPublication, loadPage, loadSite, type Site } from '../../src/services/sites/site';
import { listPitches } from '../../src/core/site/pitch';
import { readRules, saveRules } from '../../src/services/rules/rules';
import { addProduct } from '../../src/services/goods/goods';
import { takePicture } from '../../src/services/goods/pictures';
import { publish } from '../../src/services/publishing/publish';
import { readSlip } from '../../src/services/sites/slip';
import { type Checked, Checking } from '../../src/services/checks/compute';
import { lookAtLive } from '../../src/services/checks/live';
import { bringInNewer } from '../../src/services/sites/newer';
import { checker } from '../../src/services/checks/in-thread';
import { handOuts, letters, placements, priceHistory, sites } from '../../src/data/schema';
import type { Spelling } from '../../src/core/placement/spelling';
import type { Decision } from '../../src/core/look/plan';
import type { PagePath } from '../../src/core/site/paths';
import { renderPage, type Rendering, rendering } from '../../src/services/publishing/render';
import { draftState } from '../../src/services/sites/state';
import { zipFrom } from '../../src/services/testing';

/** How a widget is put: in which spelling, and whether in the first place of the main part or in the last. */
export interface PutHow {
  readonly spelling?: Spelling;
  readonly first?: boolean;
}

/** A host of the live site. */
interface Host {
  /** What it answers, where that is another thing than it was given. @param usual the published bytes; none where it has no such file */
  readonly serve: (
    path: string,
    usual: Uint8Array | undefined,
  ) => Uint8Array | string | undefined | Promise<Uint8Array | string | undefined>;
  readonly ready: (origin: string) => Promise<void>;
  /** Where it leads on to, if anywhere. @param at the name and port that it was asked at */
  readonly leadsTo: (path: string, at: string) => string | undefined;
}

/** A site of files with a shop in which nothing is wrong, and what the checks say of it. */
export class CheckedShop {
  private constructor(
    readonly world: World,
    readonly id: string,
    /** As the site came in. */
    private readonly files: Readonly<Record<string, string | Uint8Array>> = {},
  ) {}

  /** @param files of the site, by path. */
  static async open(
    files: Readonly<Record<string, string | Uint8Array>>,
    { sells = true } = {},
  ): Promise<CheckedShop> {
    const world = await makeWorld();
    Object.assign(world.ctx.addresses, { shop: 'https://shop.test' });
    const { id } = await bringIn(
      world.ctx,
      { how: 'zip', fileName: 'site.zip', bytes: zipFrom({ ...files }) },
      { currency: 'GBP', liveUrl: 'https://stranger.example/' },
    );
    const shop = new CheckedShop(world, id, files);
    if (sells) await shop.sell();
    return shop;
  }

  /** A site in a folder that shoppers are served from, at an origin where the shop answers as well. */
  static async inFolder(folder: string, origin: string): Promise<CheckedShop> {
    const world = await makeWorld();
    Object.assign(world.ctx.addresses, { shop: origin });
    const { id } = await bringIn(
      world.ctx,
      { how: 'folder', folder },
      { currency: 'GBP', liveUrl: `${origin}/` },
    );
    const shop = new CheckedShop(world, id);
    await shop.sell();
    return shop;
  }

  site = (): Promise<Site> => loadSite(this.world.ctx, { id: this.id });

  /** Three products with all that belongs to them, and a till that is set up. @returns what "Add selling" answered */
  async sell(): Promise<Added> {
    const { ctx } = this.world;
    const picture = await sharp({ create: { width: 900, height: 675, channels: 3, background: '#b08d57' } })
      .png()
      .toBuffer();
    const hash = await takePicture(ctx, picture);
    const added = await addSelling(ctx, await this.site(), {
      setUp: { country: 'GB', currency: 'GBP', sells: ['ships'], taxed: false, takesMoney: ['card'] },
    });
    for (const [name, price] of [
      ['Quernstone trencher', 4200],
      ['Saltmarsh creel', 6800],
      ['Yaffle birdhouse', 2450],
    ] as const)
      await addProduct(
        ctx,
        await this.site(),
        {
          name,
          price,
          description: `<p>The ${name} is made by hand.</p>`,
          pictures: [{ hash, alt: `${name}, seen from the side` }],
          variants: [{ stock: 7, weight: 900 }],
        },
        'bench',
      );
    await this.till('shipping', {
      regions: [
        {
          id: 'uk',
          name: 'United Kingdom',
          areas: [{ country: 'GB' }],
          ways: [{ id: 'post', name: 'Post', by: 'flat', base: 495 }],
        },
      ],
    });
    await this.till('seller', { name: 'Quern & Saltmarsh', address: '4 Weir Lane\nOsierham' });
    const policy = (id: string, name: string) => ({ id, name, text: `${name} of Quern & Saltmarsh.` });
    await this.till('checkout', {
      policies: [
        policy('terms', 'Terms and conditions'),
        policy('privacy', 'Privacy'),
        policy('returns', 'Withdrawal and returns'),
        policy('imprint', 'Imprint'),
      ],
    });
    return added;
  }

  async till(
    part: 'shipping' | 'seller' | 'checkout' | 'tax' | 'pay' | 'discounts',
    value: unknown,
  ): Promise<void> {
    const { ctx } = this.world;
    const rules = await readRules(ctx.store.db, this.id);
    await saveRules(
      ctx,
      await this.site(),
      {
        part,
        value: Array.isArray(value) ? value : { ...rules[part], ...(value as object) },
        from: rules[part],
      },
      'bench',
    );
  }

  /** What the checks say, kept between calls as in the application. */
  check = (): Promise<Checked> => checker(this.world.ctx).run(this.id).done;
  /** The same with nothing remembered. */
  checkAnew = (): Promise<Checked> => new Checking(this.world.ctx).run(this.id);

  /** Pages as they would be published, by path. */
  async written(): Promise<Map<string, string>> {
    const site = await this.site();
    const own = await this.#render(() => site.reading.pages.map((p) => p.path));
    const all = [...own, ...(await this.shopPages())];
    return new Map(all.map(([path, bytes]) => [path, Buffer.from(bytes).toString('base64')]));
  }

  /** Pages that the shop adds, as they would be published, by path. */
  shopPages = (): Promise<Map<string, Uint8Array>> =>
    this.#render((r) => r.shopPages.filter((p) => p.part !== 'moved').map((p) => p.path as PagePath));

  /** Some of the owner's pages, as they would be published, by path. */
  ownPages = (paths: readonly PagePath[]): Promise<Map<string, Uint8Array>> => this.#render(() => paths);

  async #render(which: (r: Rendering) => readonly PagePath[]): Promise<Map<string, Uint8Array>> {
    const { ctx } = this.world;
    const site = await this.site();
    const r = await rendering(ctx, site, await draftState(ctx, site));
    const out = new Map<string, Uint8Array>();
    for (const path of which(r)) out.set(path, (await renderPage(ctx, r, path)).bytes);
    return out;
  }

  /** Ids of lines that wait on the slip. */
  lines = async (): Promise<string[]> =>
    (await readSlip(this.world.ctx, await this.site())).waiting.map((l) => l.id);

  async setRow(values: Partial<typeof sites.$inferInsert>): Promise<void> {
    await this.world.ctx.store.write((tx) => tx.update(sites).set(values).where(eq(sites.id, this.id)));
  }

  /** Settings of a placement as a version wrote them that this one no longer knows. */
  async breakSettings(id: string): Promise<void> {
    await this.world.ctx.store.write((tx) =>
      tx
        .update(placements)
        .set({ settings: { goods: 42 } })
        .where(eq(placements.id, id)),
    );
  }

  /** A widget in the main part of a page. */
  async put(
    page: string,
    kind: string,
    settings: Record<string, unknown>,
    { spelling, first = false }: PutHow = {},
  ): Promise<string> {
    const { ctx } = this.world;
    const site = await this.site();
    const pitches = listPitches(await loadPage(ctx, site, page));
    // Within it, not at its edge: what is put behind it is in no part of the page.
    const inMain = pitches.filter((p) => p.region === 'main' && p.address.path !== '');
    if (!first) inMain.reverse();
    // A page that a script fills has no main part as written.
    for (const pitch of inMain.length > 0 ? inMain : pitches) {
      const asked = {
        kind,
        settings,
        pitch: pitch.address,
        pitchLabel: pitch.label,
        ...(spelling && { spelling }),
      };
      const placed = await place(ctx, site, { ...asked, reach: { to: 'page', page } }).catch(() => undefined);
      if (placed) return placed.id;
    }
    throw new Error(`no pitch on ${page}`);
  }

  /** Publishes what stands there: what a mend changes is then all that waits. */
  async publish(): Promise<void> {
    await publish(this.world.ctx, await this.site(), 'bench').catch(
      (e: unknown) => process.env.STALL_BENCH_MISSES && process.stderr.write(`publish: ${String(e)}\n`),
    );
  }

  /** Checks in threads of their own, as in the application. */
  inThreads(): void {
    const { ctx, dir } = this.world;
    const threads = {
      database: `file:${join(dir, 'stall.db')}`,
      migrations: 'src/data/migrations',
      blobs: join(dir, 'blobs'),
      addresses: { office: ctx.addresses.office, shop: ctx.addresses.shop },
      providers: Object.keys(ctx.providers),
      sendsLetters: ctx.mail !== undefined,
    };
    Object.assign(ctx, { threads });
  }

  /** What stood around a placement is gone: nothing like it is on its page. */
  async losePitch(id: string): Promise<void> {
    await this.world.ctx.store.write(async (tx) => {
      const [row] = await tx
        .select({ pitch: placements.pitch })
        .from(placements)
        .where(eq(placements.id, id));
      if (!row) return;
      const nowhere: [string, string, string, string] = ['x1', 'x2', 'x3', 'x4'];
      const pitch = {
        ...row.pitch,
        around: nowhere,
        outside: ['y1', 'y2'] as [string, string],
        heading: 'z',
        row: 'r',
        path: 'div:99',
      };
      await tx.update(placements).set({ pitch }).where(eq(placements.id, id));
    });
  }

  /** The same widget again, that many times. @param id of its placement */
  async repeat(id: string, times: number): Promise<void> {
    await this.world.ctx.store.write(async (tx) => {
      const [row] = await tx.select().from(placements).where(eq(placements.id, id));
      if (!row) return;
      for (let n = 0; n < times; n++) await tx.insert(placements).values({ ...row, id: `again${n}` });
    });
  }

  /** A newer version of the owner's files comes in. */
  async newer(change: (files: Record<string, string | Uint8Array>) => void): Promise<void> {
    const files = { ...this.files };
    change(files);
    await bringInNewer(this.world.ctx, await this.site(), {
      how: 'zip',
      fileName: 'newer.zip',
      bytes: zipFrom(files),
    });
  }

  /** A letter that waits. */
  async letter(more: { readonly tries?: number }): Promise<void> {
    await this.world.ctx.store.write((tx) =>
      tx.insert(letters).values({
        id: 'letter',
        siteId: this.id,
        kind: 'confirmation',
        key: 'letter',
        to: 'ada@penhallow.example',
        subject: 'Your order',
        text: 'Thank you.',
        notBefore: this.world.ctx.now(),
        ...more,
      }),
    );
  }

  /** A widget that was handed out to a page elsewhere, and was seen there. */
  async handOut(placementId: string, url: string): Promise<void> {
    await this.world.ctx.store.write((tx) =>
      tx.insert(handOuts).values({
        siteId: this.id,
        placementId,
        kind: 'card',
        spelling: 'element',
        url,
        found: true,
        message: '',
        lookedAt: this.world.ctx.now(),
      }),
    );
  }

  /** Publishes, serves what was published, and lets the checks look at it. */
  async goLive(host: Partial<Host> = {}, looks = 1): Promise<void> {
    const { ctx } = this.world;
    let published: Readonly<Record<string, string>> = {};
    const server = createServer((req, res) => {
      const path = decodeURIComponent(req.url ?? '/').slice(1) || 'index.html';
      const hash = published[path];
      void (hash ? ctx.blobs.get(hash) : Promise.resolve(undefined)).then(async (bytes) => {
        // The shop answers at the same origin.
        const usual = bytes ?? (path.endsWith('/goods') ? Buffer.from('goods') : undefined);
        const leadsTo = host.leadsTo?.(path, req.headers.host ?? '');
        if (leadsTo) return void res.writeHead(301, { location: leadsTo }).end();
        const answer = await (host.serve ?? ((_, same) => same))(path, usual);
        if (answer) res.end(answer);
        else res.writeHead(404).end();
      });
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    try {
      Object.assign(ctx.addresses, { shop: origin });
      await this.setRow({ liveUrl: `${origin}/` });
      await this.publish();
      published = (await currentPublication(ctx, (await this.site()).row))?.manifest ?? {};
      await host.ready?.(origin);
      for (let n = 0; n < looks; n++) await lookAtLive(ctx, await this.site());
    } finally {
      server.closeAllConnections();
      server.close();
    }
  }

  /** A decision of the owner's about the look. */
  async look(name: string, decision: Decision): Promise<void> {
    const { look } = (await this.site()).row;
    await this.setRow({ look: { ...look, decisions: { ...look?.decisions, [name]: decision } } });
  }

  /** All that was asked for anything was asked that long ago. @param days before today */
  async daysLater(days: number): Promise<void> {
    await this.world.ctx.store.write((tx) =>
      tx.update(priceHistory).set({ at: sql`${priceHistory.at} - ${days * 86_400_000}` }),
    );
  }

  end = (): Promise<void> => this.world.end();
}
