import { entryAt } from '../../../core/entries';
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Webhook } from 'standardwebhooks';
import { tillRules } from '../../../core/till/rules';
import { openStore, type Store } from '../../../data/database';
import { vouchers } from '../../../data/schema';
import type { Ctx } from '../../context';
import { loadSite, type Site } from '../../sites/site';
import { makeWorld, noticeSecret } from '../../testing';
import { takeNotice } from '../payment';
import { Provider } from './provider';

/** One shop of few goods and tight limits, so that everything runs out soon. Made once; each sequence works on a copy. */
export interface Template {
  readonly dir: string;
  readonly siteId: string;
  readonly ctx: Ctx;
  readonly provider: Provider;
  readonly api: string;
  readonly end: () => Promise<void>;
}

/** Takes 60.00 at the beginning; others are issued on the way. */
export const firstVoucher = 'ABCDEFGH2345';

export async function makeTemplate(): Promise<Template> {
  const provider = new Provider();
  const api = await provider.listen();
  const world = await makeWorld(api);
  await world.addGoods('Trug', 4000, 4);
  await world.addGoods('Creel', 1075, 1, { offer: { kind: 'percent', value: 6, from: null, until: null } });
  await world.addGoods('Gift', 1000, null, { kind: 'voucher', openLeast: 1000 });
  await world.addGoods('Pattern', 900, null, { kind: 'download', taxClass: 'digital' });
  const rules = tillRules.parse({
    tax: { included: true, home: { country: 'GB' }, rates: [{ country: 'GB', percent: 20 }] },
    shipping: {
      regions: [
        {
          id: 'home',
          name: 'Home',
          areas: [{ country: 'GB' }],
          ways: [{ id: 'post', name: 'Post', base: 900, freeFrom: 5000 }],
        },
      ],
    },
    discounts: [
      { id: 'once', name: 'First of all', code: 'ONCE', kind: 'percent', percent: 50, limit: 1 },
      { id: 'each', name: 'Once each', code: 'EACH', kind: 'percent', percent: 10, limitEach: 1 },
      { id: 'third', name: 'Third free', code: 'THREE', kind: 'buy-get', buy: 2, get: 1 },
    ],
    pay: {
      ways: [
        { id: 'card', name: 'Card', kind: 'card' },
        { id: 'bank', name: 'Bank', kind: 'transfer', accountName: 'Tiny', iban: 'GB33BUKB20201555555555' },
      ],
    },
  });
  for (const part of ['tax', 'shipping', 'discounts', 'pay'] as const) await world.till(part, rules[part]);
  const site = await world.site();
  await world.ctx.store.db.insert(vouchers).values({
    id: 'first',
    siteId: site.row.id,
    code: firstVoucher,
    amount: 6000,
    currency: 'GBP',
    createdAt: world.ctx.now(),
    expiresAt: null,
  });
  world.ctx.store.close();
  return {
    dir: world.dir,
    siteId: site.row.id,
    ctx: world.ctx,
    provider,
    api,
    end: async () => {
      provider.close();
      await world.end();
    },
  };
}

/** The machine stopped: whatever was under way is cut off here. */
export class Stopped extends Error {
  override name = 'Stopped';
}

export interface Notice {
  readonly id: string;
  readonly type: 'payment.approved' | 'payment.declined';
  readonly reference: string;
  readonly amount: number;
}

/** What one shopper has before them. */
export interface Shopper {
  cart: string | null;
  readonly email: string;
}

/** One sequence's shop, with its clock, its shoppers, and notices that are still on their way. */
export class Stage {
  readonly shoppers: readonly Shopper[] = ['ada', 'ben', 'cleo'].map((name) => ({
    cart: null,
    email: `${name}@penhallow.example`,
  }));
  readonly notices: Notice[] = [];
  /** Notices that the shop has taken: what they say has to be in its books. */
  readonly deliveredNotices = new Set<string>();
  /** Amounts of gift vouchers when they were first seen, and what was spent of each at the last look. */
  readonly issued = new Map<string, number>();
  readonly spent = new Map<string, number>();
  /** Pieces of each variant at the beginning. */
  readonly stockAtFirst = new Map<string, number>();
  readonly clock = { ms: Date.UTC(2026, 10, 24, 9) };
  /** Writes until the machine stops; nothing while it runs on. */
  life: number | undefined;
  ctx!: Ctx;
  #store: Store | undefined;
  #dir = '';

  constructor(readonly template: Template) {}

  get provider(): Provider {
    return this.template.provider;
  }

  async begin(): Promise<this> {
    this.provider.forget();
    this.#dir = await mkdtemp(`${this.template.dir}-run-`);
    for (const file of ['stall.db', 'stall.db-wal'])
      await cp(join(this.template.dir, file), join(this.#dir, file)).catch(() => undefined);
    await this.start();
    return this;
  }

  /** Opens the shop on what is on the disk, as after a stop: nothing is remembered but that. */
  async start(): Promise<void> {
    this.#store?.close();
    this.life = undefined;
    const store = await openStore(`file:${join(this.#dir, 'stall.db')}`, 'src/data/migrations');
    this.#store = store;
    const breath = () => {
      if (this.life === undefined) return;
      if (this.life <= 0) throw new Stopped();
      this.life--;
    };
    this.ctx = {
      ...this.template.ctx,
      now: () => new Date(this.clock.ms),
      store: {
        ...store,
        write: async (work) => {
          breath();
          return store.write(work);
        },
        writeTogether: async (work) => {
          breath();
          return store.writeTogether(work);
        },
      },
    };
  }

  async end(): Promise<void> {
    this.#store?.close();
    await rm(this.#dir, { recursive: true, force: true });
  }

  site(): Promise<Site> {
    return loadSite(this.ctx, { id: this.template.siteId });
  }

  shopper(n: number): Shopper {
    return entryAt(this.shoppers, n % this.shoppers.length);
  }

  async deliver(notice: Notice): Promise<void> {
    const { id, type, reference, amount } = notice;
    const body = JSON.stringify({
      type,
      data: { id: `pay_${reference}`, reference, amount, currency: 'GBP', detail: 'card' },
    });
    // Signatures are held against the true time, whatever the clock of the model says.
    const at = new Date();
    await takeNotice(
      this.ctx,
      'card',
      {
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
        'webhook-signature': new Webhook(noticeSecret).sign(id, at, body),
      },
      body,
    );
    if (type === 'payment.approved') this.deliveredNotices.add(reference);
  }
}
