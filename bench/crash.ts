import { testCards } from '../standins/card-provider/cards';
import { GOODS, type KillableShop, killableShop, PRICE } from './support/books';
import { figure, type Measurement } from './support/figure';
import { ask, shopAndCheckOut } from './support/installation';

const CHECKOUTS = 100;
const card = { number: testCards[0]?.number ?? '' };
const wait = (ms: number) => new Promise((soon) => setTimeout(soon, ms));

/** kill -9 in the middle of 100 checkouts, then at every step of one; started again each time: the books agree. */
export const crash: Measurement = async () => [await inTheMiddle(), await atEveryStep()];

async function inTheMiddle() {
  const s = await killableShop(4900, 1000);
  let begun = 0;
  const shoppers = Array.from({ length: CHECKOUTS }, async (_, i) => {
    await wait(i * 8);
    const { url } = await shopAndCheckOut(s.shop, GOODS, PRICE);
    if (++begun === CHECKOUTS / 2) s.kill();
    if (url) await ask(url, 'POST', card);
  });
  const ended = await Promise.allSettled(shoppers);
  await wait(300);
  await s.startAgain();
  await lookAgain(s);
  await wait(4000);
  const { faults, paid } = await s.audit();
  await s.end();
  const cut = ended.filter((e) => e.status === 'rejected').length;
  return figure(
    `kill -9 in the middle of ${CHECKOUTS} checkouts`,
    faults.length === 0 ? 'the books agree' : `THEY DO NOT AGREE: ${faults.join(', ')}`,
    '',
    `${paid} paid, ${cut} cut off`,
    'no half order',
  );
}

/** Shoppers who are back before the notice: the shop asks the provider. */
async function lookAgain(s: KillableShop): Promise<void> {
  for (const { token } of (await s.db.execute("SELECT token FROM orders WHERE state = 'waiting'")).rows)
    await ask(`${s.shop}/v1/withybed/orders/${String(token)}/page?part=thanks`);
}

/** Milliseconds after a step was begun at which the machine stops: nought is at once. */
const MOMENTS = [0, 2, 4, 7, 11, 16, 24];

/**
 * One checkout for each step and moment: goods into the cart, going to pay, the payment with its notice. The server is killed
 * so many milliseconds after the step began, started again, and the shopper goes on where they were.
 */
async function atEveryStep() {
  const s = await killableShop(4920, 1000);
  const form = {
    email: 'b@buyers.example',
    name: 'Buyer',
    street: '1 Row',
    town: 'Town',
    postcode: 'WB4 2TR',
    country: 'GB',
    total: String(PRICE),
    order: 'yes',
  };
  const api = `${s.shop}/v1/withybed`;
  const ways = `?cart=&checkout=&back=`;
  const faults: string[] = [];
  let n = 0;
  const killed = async (work: Promise<unknown>, ms: number): Promise<void> => {
    void work.catch(() => undefined);
    await wait(ms);
    s.kill();
    await work.catch(() => undefined);
    await s.startAgain();
  };
  const buyOnce = async (step: 'cart' | 'pay' | 'notice', ms: number): Promise<void> => {
    const put = () => ask(`${api}/carts`, 'POST', { goods: GOODS, quantity: '1' });
    if (step === 'cart') await killed(put(), ms);
    const { token } = JSON.parse((await put()).body) as { token: string };
    const pay = () => ask(`${api}/carts/${token}/page/checkout${ways}`, 'POST', form);
    if (step === 'pay') await killed(pay(), ms);
    const { url } = JSON.parse((await pay()).body) as { url: string };
    if (step === 'notice') await killed(ask(url, 'POST', card), ms);
    else await ask(url, 'POST', card);
    await wait(150);
    await lookAgain(s);
  };
  for (const ms of MOMENTS) {
    for (const step of ['cart', 'pay', 'notice'] as const) {
      n++;
      await buyOnce(step, ms);
      const found = await s.audit();
      if (found.paid !== n) faults.push(`${step} at ${ms} ms: ${found.paid} of ${n} paid`);
      faults.push(...found.faults.map((f) => `${step} at ${ms} ms: ${f}`));
    }
  }
  await s.end();
  return figure(
    `kill -9 at every step of a checkout, ${n} times`,
    faults.length === 0
      ? 'each paid once, the books agree'
      : `THEY DO NOT AGREE: ${faults.slice(0, 5).join('; ')}`,
    '',
    `${MOMENTS.length} moments of 3 steps`,
    'no half order, no double charge, no lost stock',
  );
}
