import { fork, spawn } from 'node:child_process';
import { once } from 'node:events';
import { copyFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { sql } from 'drizzle-orm';
import { addToCart } from '../src/services/till/add-to-cart';
import { goToPay } from '../src/services/till/go-to-pay';
import { takeNotice } from '../src/services/till/payment';
import { makeWorld, noticeSecret, type World } from '../src/services/testing';
import { sign } from '../standins/payments/signature';
import { figure, type Measurement, median } from './support/figure';
import { recordWrites } from './support/record-writes';

/** Orders in each round, and rounds; the first ones are not measured: a shop's process has been running for a while. */
const ORDERS = 100;
const ROUNDS = 8;
const WARM_ROUNDS = 2;
/** Shoppers at a time: as many as a busy small shop would ever have at its till. */
const AT_ONCE = 20;
const buyer = {
  email: 'b@buyers.example',
  name: 'Buyer',
  street: '1 Row',
  town: 'Town',
  postcode: 'WB4 2TR',
  country: 'GB',
};

/** A payment provider that says yes at once, elsewhere, as providers are. */
const PROVIDER = `require('node:http').createServer((q,s)=>{let b='';q.on('data',(d)=>b+=d).on('end',()=>{const {reference}=JSON.parse(b);s.writeHead(201,{'content-type':'application/json'}).end(JSON.stringify({id:'pay_'+reference,url:'https://cards.example/'+reference}))})}).listen(0,'127.0.0.1',function(){console.log(this.address().port)})`;

/**
 * Whole orders a second (cart, checkout with the provider asked over HTTP, signed notice, invoice, letters), every transaction
 * synced to disk, against bare libSQL doing the very same writes: they are recorded while our orders are made, and done again by a
 * process of its own on a copy of the same database, transaction by transaction. The two take turns, round by round, so that
 * both meet the same machine.
 */
export const orders: Measurement = async () => {
  const dir = await mkdtemp(join(tmpdir(), 'stall-bare-'));
  const elsewhere = spawn(process.execPath, ['-e', PROVIDER], { stdio: ['ignore', 'pipe', 'inherit'] });
  const port = Number(await new Promise((ready) => elsewhere.stdout.once('data', ready)));
  const w = await makeWorld(`http://127.0.0.1:${port}/v1`);
  await w.addGoods('Trug', 4200, ORDERS * (ROUNDS + WARM_ROUNDS));
  await w.ctx.store.db.run(sql`PRAGMA wal_checkpoint(TRUNCATE)`);
  await copyFile(join(w.dir, 'stall.db'), join(dir, 'bare.db'));
  const recorded = recordWrites();
  const bare = fork(fileURLToPath(new URL('./bare-child.js', import.meta.url)), [join(dir, 'bare.db')], {
    serialization: 'advanced',
  });
  await once(bare, 'message');
  const rounds: { ours: number; bare: number }[] = [];
  for (let round = 0; round < ROUNDS + WARM_ROUNDS; round++) {
    const from = recorded.length;
    const started = performance.now();
    await make(w, round * ORDERS, ORDERS);
    const ours = performance.now() - started;
    bare.send(recorded.slice(from));
    const [ms] = (await once(bare, 'message')) as [number];
    if (round >= WARM_ROUNDS) rounds.push({ ours, bare: ms });
  }
  bare.kill();
  elsewhere.kill();
  await w.end();
  await rm(dir, { recursive: true });
  const rate = (ms: number[]) => `${(ORDERS / (median(ms) / 1000)).toFixed(0)}/s`;
  const each = (n: number) => (n / (ORDERS * (ROUNDS + WARM_ROUNDS))).toFixed(0);
  const writes = recorded.reduce((n, t) => n + t.length, 0);
  return [
    figure(
      'orders with full durability',
      rate(rounds.map((r) => r.ours)),
      `bare libSQL, the same ${each(writes)} writes in ${each(recorded.length)} transactions ${rate(rounds.map((r) => r.bare))}`,
      median(rounds.map((r) => r.bare / r.ours)).toFixed(2),
      'ratio 0.5 or more',
    ),
  ];
};

async function make(w: World, from: number, count: number): Promise<void> {
  const site = await w.site();
  let next = from;
  const one = async (i: number) => {
    const cart = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: '/' },
      `key-bench-${i}`,
    );
    const { url } = await goToPay(w.ctx, site, cart.token, { ...buyer, total: 4200 }, 'site');
    const reference = url.split('/').at(-1) ?? '';
    const body = JSON.stringify({
      type: 'payment.approved',
      data: { id: 'p', reference, amount: 4200, currency: 'GBP', detail: 'card' },
    });
    await takeNotice(
      w.ctx,
      'card',
      sign(noticeSecret, `msg_${i}`, Math.floor(Date.now() / 1000), body),
      body,
    );
  };
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (next < from + count) await one(next++);
    }),
  );
}
