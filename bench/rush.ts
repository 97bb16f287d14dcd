import { createClient } from '@libsql/client';
import { join } from 'node:path';
import { testCards } from '../standins/card-provider/cards';
import { NO_TERMS } from './support/books';
import { figure, type Measurement } from './support/figure';
import { ask, shopAndCheckOut, startDemo } from './support/installation';

const BUYERS = 200;
const PIECES = 50;
const bought =
  "SELECT count(*) AS n FROM orders o JOIN order_lines l ON l.order_id = o.id WHERE o.state = 'paid' AND l.name = 'Pattern sheet: oval shopper'";

/** 200 buyers of 50 pieces at once, over HTTP, each with a payment at the stand-in provider: exactly 50 are sold. */
export const rush: Measurement = async () => {
  const demo = await startDemo(4880, { STALL_WRITES_PER_MINUTE: '0' });
  try {
    const db = createClient({ url: `file:${join(demo.dir, 'stall.db')}` });
    await db.execute({
      sql: "UPDATE variants SET stock = ? WHERE goods_id = (SELECT id FROM goods WHERE slug = 'pattern-sheet-oval-shopper')",
      args: [PIECES],
    });
    await db.execute(NO_TERMS);
    // One of the demo's own buyers has bought it before it was counted.
    const earlier = Number((await db.execute(bought)).rows[0]?.n);
    const shop = `http://shop.localhost:${demo.port + 1}`;
    const started = performance.now();
    const tries = await Promise.all(
      Array.from({ length: BUYERS }, () => shopAndCheckOut(shop, 'pattern-sheet-oval-shopper', 650)),
    );
    const ms = performance.now() - started;
    const through = tries.flatMap((t) => t.url ?? []);
    const refused = tries.filter((t) => t.refused?.includes('sold') || t.refused?.includes('left')).length;
    await Promise.all(through.map((url) => ask(url, 'POST', { number: testCards[0]?.number ?? '' })));
    await new Promise((soon) => setTimeout(soon, 3000));
    const stock = Number(
      (
        await db.execute(
          "SELECT stock FROM variants WHERE goods_id = (SELECT id FROM goods WHERE slug = 'pattern-sheet-oval-shopper')",
        )
      ).rows[0]?.stock,
    );
    const sold = Number((await db.execute(bought)).rows[0]?.n) - earlier;
    db.close();
    return [
      figure(
        `${BUYERS} buyers of ${PIECES} pieces at once`,
        `${sold} sold, ${refused} told, ${stock} left`,
        '',
        `${ms.toFixed(0)} ms for all checkouts`,
        'exactly 50 sold, 0 left',
      ),
    ];
  } finally {
    await demo.end();
  }
};
