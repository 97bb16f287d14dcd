import { mkdtemp, rm } from 'node:fs/promises';
import type { ChildProcess } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Client, createClient } from '@libsql/client';
import { startProgram } from './installation';

/** A shop with counted pieces that may be killed at any moment, and the audit of its books afterwards. */
export const GOODS = 'pattern-sheet-oval-shopper';
export const PRICE = 650;
/** Whoever buys here agrees to nothing: the demo's terms would stand in the way of a plain form. */
export const NO_TERMS = "UPDATE tills SET rules = json_set(rules, '$.checkout.policies', json('[]'))";
const NAME = 'Pattern sheet: oval shopper';

export interface KillableShop {
  readonly shop: string;
  readonly db: Client;
  readonly kill: () => void;
  readonly startAgain: () => Promise<void>;
  /** What does not agree, in words; nothing where all of it does. And how many were paid. */
  readonly audit: () => Promise<{ faults: string[]; paid: number }>;
  readonly end: () => Promise<void>;
}

export async function killableShop(port: number, stock: number): Promise<KillableShop> {
  const dir = await mkdtemp(join(tmpdir(), 'stall-crash-'));
  const secret = `whsec_${Buffer.from('a secret for the crash test').toString('base64')}`;
  const env = {
    STALL_DATA: dir,
    STALL_PORT: String(port),
    STALL_LOG: 'error',
    STALL_WRITES_PER_MINUTE: '0',
    STALL_CONNECTIONS_FROM_ONE: '0',
    STALL_DEMO_EMAIL: 'a@b.example',
    STALL_DEMO_PASSWORD: 'long enough words',
    STALL_CARDS_API: `http://127.0.0.1:${port + 4}/v1`,
    STALL_CARDS_KEY: 'k',
    STALL_CARDS_NOTICE_SECRET: secret,
    STALL_WALLET_API: `http://127.0.0.1:${port + 5}/v1`,
    STALL_WALLET_KEY: 'w',
    STALL_WALLET_NOTICE_SECRET: secret,
    STALL_HOST_ENDPOINT: `http://127.0.0.1:${port + 3}`,
    STALL_HOST_KEY: 'h',
    STALL_HOST_LIVE_URL: `http://*.localhost:${port + 3}/`,
  };
  const cards = await startProgram('standins/card-provider.js', {
    CARDS_PORT: String(port + 4),
    CARDS_KEY: 'k',
    CARDS_NOTICE_SECRET: secret,
  });
  const wallet = await startProgram('standins/wallet.js', {
    WALLET_PORT: String(port + 5),
    WALLET_KEY: 'w',
    WALLET_NOTICE_SECRET: secret,
  });
  const host = await startProgram('standins/site-host.js', {
    HOST_PORT: String(port + 3),
    HOST_KEY: 'h',
    HOST_DATA: join(dir, 'host'),
  });
  await new Promise<void>((done, failed) =>
    startProgram('demo/seed.js', env).then(
      () => done(),
      (e: Error) => (e.message.includes('with 0') ? done() : failed(e)),
    ),
  );
  const db = createClient({ url: `file:${join(dir, 'stall.db')}`, timeout: 5000 });
  const one = async (sql: string, ...args: (string | number)[]) =>
    Number((await db.execute({ sql, args })).rows[0]?.n);
  await db.execute({
    sql: 'UPDATE variants SET stock = ? WHERE goods_id = (SELECT id FROM goods WHERE slug = ?)',
    args: [stock, GOODS],
  });
  await db.execute(NO_TERMS);
  const bought =
    "SELECT count(*) AS n FROM orders o JOIN order_lines l ON l.order_id = o.id WHERE o.state = 'paid' AND l.name = ?";
  // One of the demo's own buyers has bought it before it was counted.
  const earlier = await one(bought, NAME);
  let server: ChildProcess = await startProgram('server/main.js', env);
  return {
    shop: `http://shop.localhost:${port + 1}`,
    db,
    kill: () => void server.kill('SIGKILL'),
    async startAgain() {
      server = await startProgram('server/main.js', env);
    },
    async audit() {
      const paid = (await one(bought, NAME)) - earlier;
      const left = await one(
        'SELECT stock AS n FROM variants WHERE goods_id = (SELECT id FROM goods WHERE slug = ?)',
        GOODS,
      );
      const figures = {
        'half orders': await one(
          'SELECT count(*) AS n FROM orders o WHERE NOT EXISTS (SELECT 1 FROM order_lines l WHERE l.order_id = o.id) OR NOT EXISTS (SELECT 1 FROM payments p WHERE p.order_id = o.id)',
        ),
        'orders paid twice': await one(
          "SELECT count(*) AS n FROM (SELECT order_id FROM payments WHERE state = 'paid' GROUP BY order_id HAVING count(*) > 1)",
        ),
        'payments that do not fit their order': await one(
          "SELECT count(*) AS n FROM payments p JOIN orders o ON o.id = p.order_id WHERE p.provider <> '' AND (p.state = 'paid') <> (o.state = 'paid') AND NOT (o.state = 'paid' AND EXISTS (SELECT 1 FROM payments q WHERE q.order_id = o.id AND q.state = 'paid'))",
        ),
        'gaps in order numbers': await one(
          'SELECT max(number) - min(number) + 1 - count(number) AS n FROM orders WHERE number IS NOT NULL AND test = 0',
        ),
        'gaps in invoice numbers': await one(
          "SELECT max(number) - count(*) AS n FROM documents WHERE series = 'invoice'",
        ),
        'paid orders without an invoice': await one(
          "SELECT count(*) AS n FROM orders o WHERE o.state = 'paid' AND o.test = 0 AND NOT EXISTS (SELECT 1 FROM documents d WHERE d.order_id = o.id)",
        ),
        'pieces that stock and orders tell differently': left - (stock - paid),
        'pieces that reservations tell differently':
          (await one(
            "SELECT coalesce(sum(r.quantity), 0) AS n FROM reservations r JOIN goods g ON g.id = r.goods_id WHERE g.slug = ? AND r.state = 'sold'",
            GOODS,
          )) - paid,
        'pieces that the ledger tells differently':
          (await one(
            "SELECT coalesce(-sum(m.delta), 0) AS n FROM stock_movements m JOIN goods g ON g.id = m.goods_id WHERE g.slug = ? AND m.reason = 'sold'",
            GOODS,
          )) - paid,
      };
      return {
        paid,
        faults: Object.entries(figures).flatMap(([what, n]) => (n === 0 ? [] : [`${n} ${what}`])),
      };
    },
    async end() {
      db.close();
      for (const child of [server, cards, wallet, host]) child.kill('SIGKILL');
      await rm(dir, { recursive: true, force: true });
    },
  };
}
