import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** What the provider knows of one payment, whatever the shop has heard of it. */
export interface AtProvider {
  readonly reference: string;
  /** What was asked for, in minor units. */
  readonly asked: number;
  state: 'open' | 'approved' | 'declined' | 'closed';
  /** What was taken: mostly what was asked for. */
  taken: number;
  refunded: number;
}

/**
 * A card provider with a ledger of its own, in the form of docs/payment-provider.md. It is asked over HTTP like any other, and tells
 * nothing by itself: notices wait until the model delivers them, twice, late or in another order.
 */
export class Provider {
  readonly payments = new Map<string, AtProvider>();
  /** Refunds by their reference: the same one again is the same refund. */
  readonly refunds = new Map<
    string,
    { readonly payment: string; readonly amount: number; readonly done: boolean }
  >();
  /** Whether it takes payment pages back. */
  closes = false;
  up = true;
  /** What becomes of refunds from now on. */
  refundsAre: 'done' | 'failed' | 'open' = 'done';
  #server: Server | undefined;

  async listen(): Promise<string> {
    const server = createServer(async (req, res) => {
      let raw = '';
      for await (const chunk of req) raw += chunk;
      const { status, body } = this.answer(req.method ?? 'GET', req.url ?? '', raw);
      res.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    this.#server = server;
    return `http://127.0.0.1:${(server.address() as AddressInfo).port}/v1`;
  }

  close(): void {
    this.#server?.closeAllConnections();
    this.#server?.close();
  }

  /** Begins anew: another shop, nothing paid. */
  forget(): void {
    this.payments.clear();
    this.refunds.clear();
    this.closes = false;
    this.up = true;
    this.refundsAre = 'done';
  }

  answer(method: string, url: string, raw: string): { status: number; body: unknown } {
    if (!this.up) return { status: 503, body: {} };
    const [, id, close] = /\/payments\/pay_([\w-]+)(\/close)?$/.exec(url) ?? [];
    if (id && close) return this.takeBack(id);
    if (id) return { status: 200, body: this.stateOf(id) };
    const asked: unknown = raw ? JSON.parse(raw) : {};
    if (method === 'POST' && url.endsWith('/payments'))
      return this.open(asked as { reference: string; amount: number });
    if (method === 'POST' && url.endsWith('/refunds'))
      return this.refund(asked as { reference: string; payment: string; amount: number });
    return { status: 404, body: {} };
  }

  private open({ reference, amount }: { reference: string; amount: number }) {
    if (!this.payments.has(reference))
      this.payments.set(reference, { reference, asked: amount, state: 'open', taken: 0, refunded: 0 });
    return { status: 201, body: { id: `pay_${reference}`, url: `https://cards.example/${reference}` } };
  }

  private takeBack(reference: string) {
    const payment = this.payments.get(reference);
    if (!payment || !this.closes) return { status: 404, body: {} };
    if (payment.state === 'open') payment.state = 'closed';
    return { status: 200, body: this.stateOf(reference) };
  }

  private stateOf(reference: string) {
    const payment = this.payments.get(reference);
    const state = payment?.state === 'closed' ? 'declined' : (payment?.state ?? 'open');
    const amount = state === 'approved' ? payment?.taken : payment?.asked;
    return { id: `pay_${reference}`, reference, state, amount, currency: 'GBP' };
  }

  private refund({
    reference,
    payment,
    amount,
  }: {
    reference: string;
    payment: string | null;
    amount: number;
  }) {
    const known = this.refunds.get(reference);
    if (known) return { status: 201, body: { state: known.done ? 'done' : 'failed', detail: 'card' } };
    const of = this.payments.get(payment?.replace(/^pay_/, '') ?? '');
    const good = of?.state === 'approved' && of.refunded + amount <= of.taken && this.refundsAre !== 'failed';
    if (of && good) of.refunded += amount;
    this.refunds.set(reference, { payment: of?.reference ?? '', amount, done: good });
    if (good && this.refundsAre === 'open') return { status: 201, body: { state: 'open' } };
    return {
      status: 201,
      body: { state: good ? 'done' : 'failed', detail: good ? 'card' : 'The card is closed' },
    };
  }
}
