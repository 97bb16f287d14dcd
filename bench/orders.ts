import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient } from '@libsql/client';
import { addToCart } from '../src/services/till/cart';
import { goToPay } from '../src/services/till/checkout';
import { takeNotice } from '../src/services/till/payment';
import { makeWorld, noticeSecret } from '../src/services/testing';
import { sign } from '../standins/payments/signature';
import { figure, type Measurement } from './support/figure';

const ORDERS = 300;
/** Shoppers at a time: as many as a busy small shop would ever have at its till. */
const AT_ONCE = 20;
const buyer = { email: 'b@buyers.example', name: 'Buyer', street: '1 Row', town: 'Town', postcode: 'WB4 2TR', country: 'GB' };

/**
 * Whole orders a second (cart, checkout with the provider asked over HTTP, signed notice), every transaction synced to
 * disk, against bare libSQL doing the same writes in as many transactions.
 */
export const orders: Measurement = async () => {
  const ours = await measureOurs();
  const bare = await measureBare();
  return [figure('orders with full durability', `${ours.toFixed(0)}/s`, `bare libSQL, same writes ${bare.toFixed(0)}/s`, (ours / bare).toFixed(2))];
};

async function measureOurs(): Promise<number> {
  const w = await makeWorld();
  await w.addGoods('Trug', 4200, ORDERS);
  const site = await w.site();
  const started = performance.now();
  let next = 0;
  const one = async (i: number) => {
    const cart = await addToCart(w.ctx, site, null, { goods: 'trug', quantity: 1, placement: null, page: '/' }, `key-bench-${i}`);
    const { url } = await goToPay(w.ctx, site, cart.token, { ...buyer, total: 4200 }, 'site');
    const reference = url.split('/').at(-1) ?? '';
    const body = JSON.stringify({ type: 'payment.approved', data: { id: 'p', reference, amount: 4200, currency: 'GBP', detail: 'card' } });
    await takeNotice(w.ctx, 'card', sign(noticeSecret, `msg_${i}`, Math.floor(Date.now() / 1000), body), body);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, async () => {
    while (next < ORDERS) await one(next++);
  }));
  const rate = ORDERS / ((performance.now() - started) / 1000);
  await w.end();
  return rate;
}

async function measureBare(): Promise<number> {
  const dir = await mkdtemp(join(tmpdir(), 'stall-bare-'));
  const client = createClient({ url: `file:${join(dir, 'b.db')}`, concurrency: 2 });
  await client.execute('PRAGMA journal_mode = WAL');
  await client.execute('PRAGMA synchronous = FULL');
  const tables = ['idempotency', 'carts', 'cart_lines', 'orders', 'order_lines', 'events', 'reservations', 'payments', 'notices', 'movements', 'goods'];
  for (const t of tables) await client.execute(`CREATE TABLE ${t} (id TEXT PRIMARY KEY, ref TEXT, data TEXT, n INTEGER)`);
  await client.execute("INSERT INTO goods VALUES ('g', '', '', 1000000)");
  const data = 'x'.repeat(300);
  const started = performance.now();
  for (let i = 0; i < ORDERS; i++) {
    const put = (table: string, suffix = '') => ({ sql: `INSERT INTO ${table} VALUES (?, ?, ?, 1)`, args: [`${i}${suffix}`, String(i), data] });
    const set = (table: string) => ({ sql: `UPDATE ${table} SET n = n + 1 WHERE id = ?`, args: [String(i)] });
    await client.batch([put('carts'), put('cart_lines'), put('idempotency')], 'write');
    await client.batch([put('orders'), put('order_lines'), put('events'), put('reservations'), put('payments'), put('events', 'b')], 'write');
    await client.batch([set('payments')], 'write');
    await client.batch([put('notices'), set('payments'), "UPDATE goods SET n = n - 1 WHERE id = 'g'", put('movements'), set('reservations'), set('orders'), { sql: 'DELETE FROM cart_lines WHERE id = ?', args: [String(i)] }, put('events', 'c')], 'write');
  }
  const rate = ORDERS / ((performance.now() - started) / 1000);
  client.close();
  await rm(dir, { recursive: true });
  return rate;
}
