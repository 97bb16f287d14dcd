import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient } from '@libsql/client';
import { testCards } from '../standins/card-provider/cards';
import { figure, type Measurement } from './support/figure';
import { ask, shopAndCheckOut, startProgram } from './support/installation';

const CHECKOUTS = 100;
const PORT = 4900;
const STOCK = 1000;
const bought = "SELECT count(*) AS n FROM orders o JOIN order_lines l ON l.order_id = o.id WHERE o.state = 'paid' AND l.name = 'Pattern sheet: oval shopper'";

/** kill -9 in the middle of 100 checkouts, start again: no half order; stock, reservations, payments and orders agree. */
export const crash: Measurement = async () => {
  const dir = await mkdtemp(join(tmpdir(), 'stall-crash-'));
  const secret = `whsec_${Buffer.from('a secret for the crash test').toString('base64')}`;
  const env = {
    STALL_DATA: dir, STALL_PORT: String(PORT), STALL_LOG: 'error', STALL_WRITES_PER_MINUTE: '0', STALL_DEMO_EMAIL: 'a@b.example', STALL_DEMO_PASSWORD: 'long enough words',
    STALL_CARDS_API: `http://127.0.0.1:${PORT + 4}/v1`, STALL_CARDS_KEY: 'k', STALL_CARDS_NOTICE_SECRET: secret,
    STALL_HOST_ENDPOINT: `http://127.0.0.1:${PORT + 3}`, STALL_HOST_KEY: 'h', STALL_HOST_LIVE_URL: `http://*.localhost:${PORT + 3}/`,
  };
  const cards = await startProgram('standins/card-provider.js', { CARDS_PORT: String(PORT + 4), CARDS_KEY: 'k', CARDS_NOTICE_SECRET: secret });
  const host = await startProgram('standins/site-host.js', { HOST_PORT: String(PORT + 3), HOST_KEY: 'h', HOST_DATA: join(dir, 'host') });
  await new Promise<void>((done, failed) => startProgram('demo/seed.js', env).then(() => done(), (e: Error) => (e.message.includes('with 0') ? done() : failed(e))));
  const db = createClient({ url: `file:${join(dir, 'stall.db')}`, timeout: 5000 });
  await db.execute({ sql: "UPDATE variants SET stock = ? WHERE goods_id = (SELECT id FROM goods WHERE slug = 'pattern-sheet-oval-shopper')", args: [STOCK] });
  // One of the demo's own buyers has bought it before it was counted.
  const earlier = Number((await db.execute(bought)).rows[0]?.n);
  let server = await startProgram('server/main.js', env);
  const shop = `http://shop.localhost:${PORT + 1}`;

  let begun = 0;
  const shoppers = Array.from({ length: CHECKOUTS }, async (_, i) => {
    await new Promise((soon) => setTimeout(soon, i * 8));
    const { url } = await shopAndCheckOut(shop, 'pattern-sheet-oval-shopper', 650);
    if (++begun === CHECKOUTS / 2) server.kill('SIGKILL');
    if (url) await ask(url, 'POST', { number: testCards[0]?.number ?? '' });
  });
  const ended = await Promise.allSettled(shoppers);
  await new Promise((soon) => setTimeout(soon, 300));
  server = await startProgram('server/main.js', env);
  const waiting = (await db.execute("SELECT token FROM orders WHERE state = 'waiting'")).rows;
  for (const { token } of waiting) await ask(`${shop}/v1/withybed/orders/${token}/page?part=thanks`);
  await new Promise((soon) => setTimeout(soon, 4000));

  const one = async (sql: string) => Number((await db.execute(sql)).rows[0]?.n);
  const half = await one('SELECT count(*) AS n FROM orders o WHERE NOT EXISTS (SELECT 1 FROM order_lines l WHERE l.order_id = o.id) OR NOT EXISTS (SELECT 1 FROM payments p WHERE p.order_id = o.id)');
  const paid = (await one(bought)) - earlier;
  const stock = await one("SELECT stock AS n FROM variants WHERE goods_id = (SELECT id FROM goods WHERE slug = 'pattern-sheet-oval-shopper')");
  const sold = await one("SELECT coalesce(sum(r.quantity), 0) AS n FROM reservations r JOIN goods g ON g.id = r.goods_id WHERE g.slug = 'pattern-sheet-oval-shopper' AND r.state = 'sold'");
  const moved = await one("SELECT coalesce(-sum(m.delta), 0) AS n FROM stock_movements m JOIN goods g ON g.id = m.goods_id WHERE g.slug = 'pattern-sheet-oval-shopper' AND m.reason = 'sold'");
  const payments = await one("SELECT count(*) AS n FROM payments p JOIN orders o ON o.id = p.order_id WHERE (p.state = 'paid') <> (o.state = 'paid')");
  const numbers = await one('SELECT max(number) - min(number) + 1 - count(number) AS n FROM orders WHERE number IS NOT NULL');
  db.close();
  for (const child of [server, cards, host]) child.kill('SIGKILL');
  await rm(dir, { recursive: true, force: true });
  const agree = half === 0 && payments === 0 && numbers === 0 && stock === STOCK - paid && sold === paid && moved === paid;
  const cut = ended.filter((e) => e.status === 'rejected').length;
  return [figure(`kill -9 in the middle of ${CHECKOUTS} checkouts`, agree ? 'the books agree' : `THEY DO NOT AGREE: half ${half}, paid ${paid}, stock ${stock}, sold ${sold}, moved ${moved}, payments ${payments}, gaps ${numbers}`, '', `${paid} paid, ${cut} cut off`, 'no half order')];
};
