import { takeNotice } from '../src/services/till/payment';
import { makeWorld, walletSecret } from '../src/services/testing';
import { addToCart } from '../src/services/till/add-to-cart';
import { goToPay } from '../src/services/till/go-to-pay';
import { sign } from '../standins/payments/signature';
import { figure, type Measurement } from './support/figure';

const ORDERS = 1_000;

/** Park and Miller's generator (Communications of the ACM 31, 1988): the same disorder in every run. */
function random(seed: number): () => number {
  let x = seed;
  return () => (x = (x * 16_807) % 2_147_483_647) / 2_147_483_647;
}

interface Delivery {
  readonly at: number;
  readonly id: string;
  readonly type: string;
  readonly reference: string;
}

/** What a wallet that was tried several times sends of one order: pending and declined ones beside the one that counts. */
function deliveriesOf(order: number, reference: string, approved: boolean, next: () => number): Delivery[] {
  const types = [
    ...(next() < 0.6 ? ['payment.pending'] : []),
    ...(next() < 0.4 ? ['payment.declined'] : []),
    approved ? 'payment.approved' : 'payment.declined',
  ];
  return types.flatMap((type, n) =>
    Array.from({ length: 1 + Math.floor(next() * 3) }, (_, k) => ({
      at: next(),
      id: next() < 0.5 ? `msg_${order}_${n}` : `msg_${order}_${n}_${k}`,
      type,
      reference,
    })),
  );
}

/** A wallet's notices for 1,000 orders: late, repeated, out of order, of several tries, those of all orders mixed. One right end state to each. */
export const notices: Measurement = async () => {
  const w = await makeWorld();
  await w.addGoods('Trug', 4200, ORDERS);
  const site = await w.site();
  const next = random(20_261_126);
  const buyer = {
    email: 'b@buyers.example',
    name: 'Buyer',
    street: '1 Row',
    town: 'Town',
    postcode: 'WB4 2TR',
    country: 'GB',
    total: 4200,
    payBy: 'wallet',
  };
  const deliveries: Delivery[] = [];
  let approved = 0;
  let declined = 0;
  for (let i = 0; i < ORDERS; i++) {
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      null,
    );
    await goToPay(w.ctx, site, cart.token, buyer, 'site');
    const reference = w.provider.asked.at(-1)?.reference ?? '';
    const yes = next() < 0.7;
    if (yes) approved++;
    else declined++;
    deliveries.push(...deliveriesOf(i, reference, yes, next));
  }
  deliveries.sort((a, b) => a.at - b.at);
  const started = performance.now();
  for (const d of deliveries) {
    const body = JSON.stringify({
      type: d.type,
      data: {
        id: `pay_${d.reference}`,
        reference: d.reference,
        amount: 4200,
        currency: 'GBP',
        detail: 'wallet',
      },
    });
    await takeNotice(w.ctx, 'wallet', sign(walletSecret, d.id, Math.floor(Date.now() / 1000), body), body);
  }
  const ms = (performance.now() - started) / deliveries.length;
  const { client } = (
    w.ctx.store.db as unknown as {
      session: { client: { execute: (sql: string) => Promise<{ rows: { n?: unknown }[] }> } };
    }
  ).session;
  const one = async (sql: string) => Number((await client.execute(sql)).rows[0]?.n);
  const figures = {
    paid: await one("SELECT count(*) AS n FROM orders WHERE state = 'paid'"),
    failed: await one("SELECT count(*) AS n FROM orders WHERE state = 'failed'"),
    stock: await one('SELECT stock AS n FROM variants'),
    numbers: await one('SELECT count(DISTINCT number) AS n FROM orders WHERE number IS NOT NULL'),
    invoices: await one('SELECT count(*) AS n FROM documents'),
    short: await one('SELECT sum(short) AS n FROM orders'),
  };
  await w.end();
  const right =
    figures.paid === approved &&
    figures.failed === declined &&
    figures.stock === ORDERS - approved &&
    figures.numbers === approved &&
    figures.invoices === approved &&
    figures.short === 0;
  return [
    figure(
      `${deliveries.length} notices for ${ORDERS.toLocaleString('en')} orders, mixed and repeated`,
      right
        ? `${approved} paid, ${declined} not: as it should be`
        : `WRONG: ${JSON.stringify(figures)}, meant ${approved} and ${declined}`,
      '',
      `${ms.toFixed(1)} ms each`,
      'one right end state',
    ),
  ];
};
