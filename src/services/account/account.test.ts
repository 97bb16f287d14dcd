import { afterEach, beforeEach, expect, it } from 'vitest';
import { goToPay } from '../till/go-to-pay';
import { parseCheckout } from '../till/checkout-form';
import { addToCart } from '../till/add-to-cart';
import { takeNotice } from '../till/payment';
import { makeWorld, noticeSecret, type World } from '../testing';
import { Webhook } from 'standardwebhooks';
import {
  closeSession,
  forgetOver,
  linkIsFor,
  openSession,
  ordersWith,
  sendLink,
  sessionEmail,
} from './account';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const linkIn = (text: string): string => /(?:#orders=|\/account\/link\/)([\w-]+)/.exec(text)?.[1] ?? '';

async function buy(email: string): Promise<void> {
  const site = await w.site();
  await w.addGoods(`Trug ${email}`, 4200, null);
  const cart = await addToCart(
    w.ctx,
    site,
    null,
    { goods: `trug-${email.toLowerCase().replace(/\W+/g, '-')}`, quantity: 1, placement: null, page: '/' },
    null,
  );
  await goToPay(
    w.ctx,
    site,
    cart.token,
    parseCheckout({
      email,
      name: 'A',
      street: 'S 1',
      town: 'T',
      postcode: 'WB4 2TR',
      country: 'UK',
      total: cart.total,
    }),
    'site',
  );
  const asked = w.provider.asked.at(-1);
  const body = JSON.stringify({
    type: 'payment.approved',
    data: { id: 'pay', reference: asked?.reference, amount: asked?.amount, currency: 'GBP' },
  });
  const at = new Date();
  await takeNotice(
    w.ctx,
    'card',
    {
      'webhook-id': `msg_${email}`,
      'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
      'webhook-signature': new Webhook(noticeSecret).sign(`msg_${email}`, at, body),
    },
    body,
  );
}

it('a letter opens the orders of its address, whatever capitals were used, and nobody else’s', async () => {
  await buy('Ada@moor.example');
  await buy('ben@hill.example');
  const site = await w.site();
  expect(await sendLink(w.ctx, site, ' ADA@moor.example ', '')).toEqual({ email: 'ada@moor.example' });
  const [letter] = w.letters;
  expect(letter).toMatchObject({
    to: 'ada@moor.example',
    fromName: site.row.name,
    subject: `Your orders at ${site.row.name}`,
  });
  const link = linkIn(letter?.text ?? '');
  expect(await linkIsFor(w.ctx, site, link)).toBe('ada@moor.example');
  const session = await openSession(w.ctx, site, link, 'site');
  const email = (await sessionEmail(w.ctx, site, session)) ?? '';
  expect((await ordersWith(w.ctx, site.row.id, email)).map((o) => o.buyer.email)).toEqual([
    'Ada@moor.example',
  ]);
  // Once, and once only.
  await expect(openSession(w.ctx, site, link, 'site')).rejects.toThrow('used or has expired');
  await closeSession(w.ctx, session);
  expect(await sessionEmail(w.ctx, site, session)).toBeUndefined();
});

it('links and sessions end, and what the database holds opens nothing', async () => {
  const site = await w.site();
  await sendLink(w.ctx, site, 'a@b.example');
  const link = linkIn(w.letters[0]?.text ?? '');
  w.clock.ms += 31 * 60_000;
  await expect(linkIsFor(w.ctx, site, link)).rejects.toThrow('has expired');
  await expect(openSession(w.ctx, site, link, 'site')).rejects.toThrow('has expired');
  await sendLink(w.ctx, site, 'a@b.example');
  const session = await openSession(w.ctx, site, linkIn(w.letters[1]?.text ?? ''), 'ordinary');
  w.clock.ms += 59 * 60_000;
  expect(await sessionEmail(w.ctx, site, session)).toBe('a@b.example');
  w.clock.ms += 2 * 60_000;
  expect(await sessionEmail(w.ctx, site, session)).toBeUndefined();
  const { shopperSessions } = await import('../../data/schema');
  const kept = await w.ctx.store.db.select().from(shopperSessions);
  for (const k of kept) expect(await sessionEmail(w.ctx, site, k.hash)).toBeUndefined();
  await forgetOver(w.ctx);
  expect(await w.ctx.store.db.$count(shopperSessions)).toBe(0);
});

it('the letter leads to the site’s own page, and never where a stranger says', async () => {
  const site = await w.site();
  await sendLink(w.ctx, site, 'a@b.example', 'https://tiny.example/your-orders/?x=1#old');
  await sendLink(w.ctx, site, 'a@b.example', `${w.ctx.addresses.draft(site.row.draftKey)}/your-orders/`);
  await sendLink(w.ctx, site, 'a@b.example', 'https://tiny.example.evil.example/your-orders/');
  // A site that is only a folder has no origin, and neither has a data: address.
  const folder = { ...site, row: { ...site.row, liveUrl: 'file:///home/site/' } };
  await sendLink(w.ctx, folder, 'other@b.example', 'data:text/html,<script>');
  const [live, draft, evil, none] = w.letters.map((l) => l.text);
  expect(none).not.toContain('data:');
  expect(live).toContain('https://tiny.example/your-orders/?x=1#orders=');
  expect(draft).toContain('.draft.test/your-orders/#orders=');
  expect(evil).not.toContain('evil');
  expect(evil).toContain(`${w.ctx.addresses.shop}/${site.row.slug}/account/link/`);
});

it('nobody’s mailbox is flooded, and what is no address gets no letter', async () => {
  const site = await w.site();
  for (let n = 0; n < 3; n++) await sendLink(w.ctx, site, 'a@b.example');
  await expect(sendLink(w.ctx, site, 'A@b.example')).rejects.toThrow('Several e-mails');
  await sendLink(w.ctx, site, 'other@b.example');
  w.clock.ms += 16 * 60_000;
  await sendLink(w.ctx, site, 'a@b.example');
  await expect(sendLink(w.ctx, site, 'a@b.example, c@d.example')).rejects.toThrow('Enter an e-mail address');
  expect(w.letters.length).toBe(5);
});

it('a mail server that fails is told to the shopper kindly, and the try does not count', async () => {
  const site = await w.site();
  const silent = { ...w.ctx, mail: { send: async () => Promise.reject(new Error('421')) } };
  for (let n = 0; n < 4; n++)
    await expect(sendLink(silent, site, 'a@b.example')).rejects.toThrow('could not be sent just now');
  await expect(sendLink({ ...w.ctx, mail: undefined }, site, 'a@b.example')).rejects.toThrow(
    'could not be sent just now',
  );
  await sendLink(w.ctx, site, 'a@b.example');
});
