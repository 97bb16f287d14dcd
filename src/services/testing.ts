import { reachOf } from './outside/reach';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { Webhook } from 'standardwebhooks';
import { folderBlobs } from '../data/blobs';
import { desc, sql } from 'drizzle-orm';
import { orders } from '../data/schema';
import { openStore } from '../data/database';
import { Recent } from './cache';
import type { Ctx } from './context';
import type { ProductInput } from '../core/goods/product';
import { addProduct } from './goods/goods';
import type { Letter } from './mail/mailer';
import { bringIn } from './sites/bring-in';
import { loadSite, type Site } from './sites/site';
import { type AddInput, addToCart } from './till/add-to-cart';
import type { CartView } from './till/cart';
import type { TillRules } from '../core/till/rules';
import type { CheckoutInput } from './till/checkout-form';
import { readRules, saveRules } from './rules/rules';
import { goToPay } from './till/go-to-pay';
import { type OrderView, readOrder } from './till/read-order';
import { takeNotice } from './till/payment';

export const noticeSecret = `whsec_${Buffer.from('a secret for tests, 24 by').toString('base64')}`;

export const walletSecret = `whsec_${Buffer.from('another secret, for a wallet').toString('base64')}`;

/** A whole application without its listeners, on a folder of its own, with a clock that tests may turn and a provider that says yes. */
export interface World {
  /** Where it keeps its files. */
  readonly dir: string;
  readonly ctx: Ctx;
  readonly site: () => Promise<Site>;
  readonly clock: { ms: number };
  readonly provider: {
    up: boolean /** What becomes of a card that is charged again. */;
    again: 'approved' | 'declined' | 'open';
    charges: {
      reference: string;
      amount: number;
      mandate: string;
    }[] /** What becomes of money that is given back, and what was asked for. */;
    refund: 'done' | 'failed' | 'open';
    refunds: { payment: string; reference: string; amount: number }[];
    /** Whether pages can be taken back, and which were. */
    closes: boolean;
    closed: string[];
    asked: { reference: string; amount: number; noticeUrl: string; approvedUrl: string; again?: boolean }[];
  };
  /** Called after each change of what shoppers read, as prepared answers are. */
  readonly whenChanged: ((siteId: string) => void)[];
  /** Letters that were sent, in order. */
  readonly letters: Letter[];
  /** A cart that went to pay, and the order's token; with `buy` the provider has said yes, too. */
  readonly order: (
    lines: readonly Bought[],
    email?: string,
    more?: Partial<CheckoutInput>,
  ) => Promise<{ token: string; reference: string }>;
  /** The card provider tells of a payment or a refund; the same id again is the same notice. */
  readonly notice: (
    type: 'payment.pending' | 'payment.approved' | 'payment.declined' | 'refund.done' | 'refund.failed',
    reference: string,
    more?: {
      readonly id?: string;
      readonly amount?: number;
      readonly currency?: string;
      readonly detail?: string;
    },
  ) => Promise<void>;
  /** The provider says yes to the last payment that was asked for, or to another. */
  readonly approve: (reference?: string) => Promise<void>;
  /** Orders as the office sees them, the newest first. */
  readonly orders: () => Promise<OrderView[]>;
  readonly buy: (lines: readonly Bought[], email?: string, more?: Partial<CheckoutInput>) => Promise<string>;
  /** Sets a part of the till; what is left out stands as usual. */
  readonly till: <P extends keyof TillRules>(part: P, value: unknown) => Promise<TillRules>;
  readonly addGoods: (
    name: string,
    price: number,
    stock: number | null,
    more?: Partial<ProductInput>,
  ) => ReturnType<typeof addProduct>;
  readonly end: () => Promise<void>;
}

/** A buyer whose address is whole. */
export const buyerOf = (email: string) => ({
  email,
  name: 'Ada Penhallow',
  street: '4 Weir Lane',
  town: 'Osierham',
  postcode: 'WB4 2TR',
  country: 'GB',
});

type Bought = Partial<AddInput> & { readonly goods: string };

export const tinySite: Record<string, string> = {
  'index.html':
    '<!doctype html><html lang="en-GB"><head><title>Tiny</title></head><body><header><a href="/">Tiny</a><nav><ul><li><a href="/">Home</a></li><li><a href="/about/">About</a></li></ul></nav></header><main><h1>Tiny</h1><p>words</p></main><footer>f</footer></body></html>',
  'about/index.html':
    '<!doctype html><html lang="en-GB"><head><title>About</title></head><body><header><a href="/">Tiny</a></header><main><h1>About</h1><p>more</p></main><footer>f</footer></body></html>',
};

export const zipFrom = (files: Record<string, string | Uint8Array>): Buffer =>
  Buffer.from(
    zipSync(
      Object.fromEntries(
        Object.entries(files).map(([name, body]) => [
          name,
          typeof body === 'string' ? Buffer.from(body) : body,
        ]),
      ),
    ),
  );

/** Answers as docs/payment-provider.md has it: the same reference again is the same refund, the same charge. */
function providerOf(provider: World['provider']): (req: IncomingMessage, res: ServerResponse) => void {
  const refundEnds = new Map<string, World['provider']['refund']>();
  const close = (page: string): Answer => {
    if (!provider.closes) return [404, {}];
    provider.closed.push(page);
    return [200, { id: `pay_${page}`, reference: page, state: 'declined' }];
  };
  const refund = (raw: string): Answer => {
    const wanted = JSON.parse(raw) as World['provider']['refunds'][number];
    provider.refunds.push(wanted);
    const state = refundEnds.get(wanted.reference) ?? provider.refund;
    refundEnds.set(wanted.reference, state);
    return [201, { state, detail: state === 'failed' ? 'The card is closed' : 'card' }];
  };
  const charge = (raw: string): Answer => {
    const wanted = JSON.parse(raw) as World['provider']['charges'][number];
    if (!provider.charges.some((c) => c.reference === wanted.reference)) provider.charges.push(wanted);
    return [201, { id: `pay_${wanted.reference}`, state: provider.again, detail: 'card ending 0019' }];
  };
  const begin = (raw: string): Answer => {
    const wanted = JSON.parse(raw) as World['provider']['asked'][number];
    provider.asked.push(wanted);
    const url = `https://cards.example/${wanted.reference}`;
    return [201, { id: `pay_${wanted.reference}`, url }];
  };
  const answer = (method: string, url: string, raw: string): Answer => {
    const page = /\/payments\/pay_([\w-]+)\/close$/.exec(url)?.[1];
    if (page) return close(page);
    // Asked how a payment stands: it is still open.
    if (method === 'GET') return [200, { id: 'pay', reference: 'x', state: 'open' }];
    if (url.endsWith('/refunds')) return refund(raw);
    return url.endsWith('/charges') ? charge(raw) : begin(raw);
  };
  return async (req, res) => {
    const raw = await text(req);
    if (!provider.up) return void res.writeHead(503).end();
    const [status, body] = answer(req.method ?? '', req.url ?? '', raw);
    res.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
  };
}
type Answer = readonly [status: number, body: object];

/** @param cards the address of another card provider than the one that comes with the world. */
export async function makeWorld(cards?: string): Promise<World> {
  const dir = await mkdtemp(join(tmpdir(), 'stall-test-'));
  const store = await openStore(`file:${join(dir, 'stall.db')}`, 'src/data/migrations');
  const provider: World['provider'] = {
    up: true,
    again: 'approved',
    charges: [],
    closes: false,
    closed: [],
    refund: 'done',
    refunds: [],
    asked: [],
  };
  const server = createServer(providerOf(provider));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const letters: Letter[] = [];
  const whenChanged: World['whenChanged'] = [];
  const clock = { ms: Date.UTC(2026, 10, 24, 9) };
  const quiet = () => {};
  const api = `http://127.0.0.1:${(server.address() as AddressInfo).port}/v1`;
  const ctx: Ctx = {
    store,
    blobs: folderBlobs(join(dir, 'blobs')),
    folders: { roots: [tmpdir()], own: [dir] },
    journals: join(dir, 'journals'),
    pictures: new Recent(5),
    host: undefined,
    changed: (siteId) => {
      for (const hear of whenChanged) hear(siteId);
    },
    mail: { send: async (letter) => void letters.push(letter) },
    addresses: {
      office: 'http://office.test',
      shop: 'http://shop.test',
      draft: (k) => `http://${k}.draft.test`,
    },
    providers: {
      card: { api: cards ?? api, pages: 'https://cards.example', key: 'k', noticeSecret },
      wallet: { api, pages: 'https://wallet.example', key: 'w', noticeSecret: walletSecret },
    },
    signing: 'a key for tests',
    // Sites of tests live on this machine.
    reach: reachOf((address) => ['127.0.0.1', '::1'].includes(address)),
    now: () => new Date(clock.ms),
    log: { info: quiet, warn: quiet, error: quiet },
  };
  const { id } = await bringIn(
    ctx,
    { how: 'zip', fileName: 't.zip', bytes: zipFrom(tinySite) },
    { currency: 'GBP', liveUrl: 'https://tiny.example/' },
  );
  const site = () => loadSite(ctx, { id });
  const order: World['order'] = async (lines, email = 'ada@penhallow.example', more = {}) => {
    let cart: CartView | undefined;
    for (const line of lines)
      cart = await addToCart(
        ctx,
        await site(),
        cart?.token ?? null,
        { quantity: 1, placement: null, page: '/', ...line },
        null,
      );
    const { order: token } = await goToPay(
      ctx,
      await site(),
      cart?.token ?? '',
      { ...buyerOf(email), total: cart?.total ?? 0, ...more },
      'site',
    );
    return { token, reference: provider.asked.at(-1)?.reference ?? '' };
  };
  const notice: World['notice'] = async (type, reference, more = {}) => {
    const asked = provider.asked.find((a) => a.reference === reference);
    const { id = `msg_${type}_${reference}`, ...data } = more;
    const body = JSON.stringify({
      type,
      data: {
        id: `pay_${reference}`,
        reference,
        amount: asked?.amount ?? 0,
        currency: 'GBP',
        ...(asked?.again && { mandate: `man_${reference}` }),
        ...data,
      },
    });
    // Signatures are held against the true time, whatever the clock of the test says.
    const at = new Date();
    await takeNotice(
      ctx,
      'card',
      {
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
        'webhook-signature': new Webhook(noticeSecret).sign(id, at, body),
      },
      body,
    );
  };
  const approve: World['approve'] = (reference = provider.asked.at(-1)?.reference ?? '') =>
    notice('payment.approved', reference);
  const buy: World['buy'] = async (lines, email, more) => {
    const { token, reference } = await order(lines, email, more);
    await approve(reference);
    return token;
  };
  return {
    dir,
    ctx,
    site,
    clock,
    provider,
    letters,
    whenChanged,
    order,
    notice,
    approve,
    buy,
    addGoods: async (name, price, stock, more = {}) =>
      addProduct(ctx, await site(), { name, price, variants: [{ stock }], ...more }, 'test'),
    till: async (part, value) =>
      saveRules(ctx, await site(), { part, value, from: (await readRules(store.db, id))[part] }, 'test'),
    async orders() {
      const rows = await store.db
        .select({ id: orders.id })
        .from(orders)
        .orderBy(desc(orders.createdAt), sql`rowid desc`);
      const at = await site();
      return Promise.all(rows.map((o) => readOrder(ctx, at, o.id)));
    },
    async end() {
      store.close();
      server.close();
      await rm(dir, { recursive: true, force: true });
    },
  };
}
