import { createServer, type Server } from 'node:http';
import { connected } from './client-address';
import type { AddressInfo } from 'node:net';
import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { documents, orders, payments } from '../data/schema';
import { setPassword } from '../services/account/password';
import { dataHref } from '../services/account/data-link';
import { policiesOf } from '../services/till/policies';
import { readRules } from '../services/rules/rules';
import { makeWorld, noticeSecret, walletSecret, type World } from '../services/testing';
import { sign } from '../../standins/payments/signature';
import { publicListener } from './public/listener';
import { PreparedAnswers } from './public/prepared';

let w: World;
let server: Server;
let base = '';
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 50);
  server = createServer(
    publicListener(w.ctx, {
      files: new Map(),
      answers: new PreparedAnswers(),
      writesPerMinute: undefined,
      clientOf: connected,
    }),
  );
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterEach(async () => {
  server.close();
  await w.end();
});

const get = async (path: string) => {
  const answer = await fetch(base + path, { redirect: 'manual' });
  return { status: answer.status, headers: answer.headers, bytes: Buffer.from(await answer.arrayBuffer()) };
};
const post = async (path: string, form: Record<string, string>) => {
  const answer = await fetch(base + path, {
    method: 'POST',
    body: new URLSearchParams(form),
    redirect: 'manual',
  });
  return { status: answer.status, headers: answer.headers, text: await answer.text() };
};
const notice = async (
  provider: string,
  secret: string,
  reference: string,
  type = 'payment.approved',
  id = `msg_${provider}_${reference}`,
) => {
  const body = JSON.stringify({
    type,
    data: { id: 'p', reference, amount: 4200, currency: 'GBP', detail: provider },
  });
  return (
    await fetch(`${base}/v1/notices/${provider}`, {
      method: 'POST',
      body,
      headers: sign(secret, id, Math.floor(Date.now() / 1000), body),
    })
  ).status;
};
const stateOf = async (token: string) =>
  (await w.ctx.store.db.select({ s: orders.state }).from(orders).where(eq(orders.token, token)))[0]?.s;

describe('notices', () => {
  it('speak of their own provider’s payments alone, signed with its own secret', async () => {
    const { token, reference } = await w.order([{ goods: 'trug' }], 'a@b.example', { payBy: 'card' });
    expect(await notice('wallet', noticeSecret, reference)).toBe(403);
    expect(await notice('card', walletSecret, reference)).toBe(403);
    expect(await notice('nobody', noticeSecret, reference)).toBe(403);
    // Rightly signed by the wallet, about a payment by card: taken, and nothing comes of it.
    expect(await notice('wallet', walletSecret, reference)).toBe(200);
    expect(await stateOf(token)).toBe('waiting');
    expect(await notice('card', noticeSecret, reference)).toBe(200);
    expect(await stateOf(token)).toBe('paid');
    expect(await notice('card', noticeSecret, reference)).toBe(200);
    expect(await w.ctx.store.db.$count(payments, eq(payments.state, 'paid'))).toBe(1);
  });

  it('of money that is back are about refunds we know, and no others', async () => {
    await w.buy([{ goods: 'trug' }]);
    expect(await notice('card', noticeSecret, 'no-such-refund', 'refund.done')).toBe(200);
    expect((await w.orders())[0]).toMatchObject({ refunded: 0, refunds: [] });
    expect(await notice('card', noticeSecret, 'x', 'refund.eaten', 'msg_odd')).toBe(422);
  });
});

describe('papers and texts', () => {
  it('are handed to whoever has the order’s address, as page and PDF, with nothing that runs', async () => {
    const token = await w.buy([{ goods: 'trug' }], 'a@b.example', { name: '<script>alert(1)</script>' });
    const [doc] = await w.ctx.store.db.select().from(documents);
    const page = await get(`/tiny/papers/${token}/${doc?.id}`);
    expect(page.headers.get('content-security-policy')).toBe("default-src 'none'; style-src 'unsafe-inline'");
    expect(page.bytes.toString()).not.toContain('<script');
    const pdf = await get(`/tiny/papers/${token}/${doc?.id}/pdf`);
    expect([pdf.headers.get('content-type'), pdf.bytes.subarray(0, 5).toString()]).toEqual([
      'application/pdf',
      '%PDF-',
    ]);
    expect(pdf.headers.get('cache-control')).toBe('no-store');
    const other = await w.buy([{ goods: 'trug' }], 'b@b.example');
    expect((await get(`/tiny/papers/${other}/${doc?.id}`)).status).toBe(404);
    expect((await get(`/tiny/papers/${token}/nothing`)).status).toBe(404);
  });

  it('a text to agree to is read on a page of its own, cleaned; a buyer who did not tick it is told beside the box', async () => {
    await w.till('checkout', {
      policies: [{ id: 'terms', name: 'Terms', text: '<p>Be <b>kind</b><img src=x onerror=alert(1)></p>' }],
    });
    const text = (await get('/tiny/policies/terms')).bytes.toString();
    expect(text).toContain('<strong>kind</strong>');
    expect(text).not.toContain('onerror');
    expect((await get('/tiny/policies/other')).status).toBe(404);
    const site = await w.site();
    const cart = new URL(
      (await post('/tiny/goods/trug', { quantity: '1', placement: '' })).headers.get('location') ?? '',
    ).pathname;
    const form = {
      email: 'a@b.example',
      name: 'A',
      street: 'S',
      town: 'T',
      postcode: 'WB4 2TR',
      country: 'GB',
      total: '4200',
      order: 'yes',
    };
    const wrong = await post(cart.replace('/cart/', '/checkout/'), form);
    expect([wrong.status, wrong.text.includes('id="stall-agree-terms-error"')]).toEqual([422, true]);
    const [policy] = policiesOf(w.ctx, site, await readRules(w.ctx.store.db, site.row.id));
    expect(
      (await post(cart.replace('/cart/', '/checkout/'), { ...form, 'agree-terms': policy?.version ?? '' }))
        .status,
    ).toBe(303);
  });
});

describe('a shopper’s account', () => {
  it('opens by password on the plain page and in the widget; after ten wrong ones an hour passes', async () => {
    const site = await w.site();
    await w.buy([{ goods: 'trug' }], 'ada@x.example');
    await setPassword(w.ctx, site, 'ada@x.example', 'nine reeds and a rush');
    const plain = await post('/tiny/account', { email: 'ada@x.example', password: 'nine reeds and a rush' });
    expect(plain.status).toBe(303);
    expect((await get(new URL(plain.headers.get('location') ?? '').pathname)).bytes.toString()).toContain(
      'Orders of ada@x.example',
    );
    const widget = await post('/v1/tiny/account/session', {
      email: 'ada@x.example',
      password: 'nine reeds and a rush',
    });
    expect(JSON.parse(widget.text)).toMatchObject({ session: expect.stringMatching(/^[\w-]{16,}$/) });
    let last = '';
    for (let n = 0; n < 11; n++)
      last = (await post('/tiny/account', { email: 'ada@x.example', password: `wrong ${n}` })).text;
    expect(last).toContain('many tries');
    // The right one does not help now, and others are not shut out with them.
    expect(
      (await post('/tiny/account', { email: 'ADA@x.example', password: 'nine reeds and a rush' })).status,
    ).not.toBe(303);
    expect((await post('/tiny/account', { email: 'bea@x.example', password: 'x' })).text).toContain(
      'do not belong together',
    );
  });

  it('an empty password asks for the letter, as before', async () => {
    const sent = await post('/tiny/account', { email: 'ada@x.example', password: '' });
    expect(sent.text).toContain('An e-mail is on its way to ada@x.example');
  });

  it('what is kept is fetched by a signed way, and erased only when it is asked for twice', async () => {
    const site = await w.site();
    await w.buy([{ goods: 'trug' }], 'ada@x.example');
    const way = new URL(dataHref(w.ctx, site, 'ada@x.example')).pathname;
    const kept = await get(way);
    expect(kept.headers.get('content-disposition')).toContain('attachment');
    expect(JSON.parse(kept.bytes.toString())).toMatchObject({
      address: 'ada@x.example',
      orders: [{ number: 1001 }],
    });
    expect((await get(`${way}x`)).status).toBe(303);
    await setPassword(w.ctx, site, 'ada@x.example', 'nine reeds and a rush');
    const here = new URL(
      (
        await post('/tiny/account', { email: 'ada@x.example', password: 'nine reeds and a rush' })
      ).headers.get('location') ?? '',
    ).pathname;
    expect((await post(here, { erase: 'ask' })).text).toContain('Yes, erase it');
    expect((await w.orders())[0]?.buyer.email).toBe('ada@x.example');
    expect((await post(here, { erase: 'yes' })).text).toContain('It is erased.');
    expect((await w.orders())[0]?.buyer.email).toBe('');
    expect((await get(here)).status).toBe(303);
  });
});

describe('the checkout', () => {
  it('without a way to pay has no button, and keeps the cart', async () => {
    await w.till('pay', { ways: [] });
    const cart = new URL(
      (await post('/tiny/goods/trug', { quantity: '1', placement: '' })).headers.get('location') ?? '',
    ).pathname;
    const page = (await get(cart.replace('/cart/', '/checkout/'))).bytes.toString();
    expect(page).toContain('Paying is not possible here just now');
    expect(page).not.toMatch(/<button[^>]*type="submit"/);
    expect((await get(cart)).bytes.toString()).toContain('Trug');
  });

  it('keeps what was typed for whoever comes back, and asks for the parts the country writes', async () => {
    const cart = new URL(
      (await post('/tiny/goods/trug', { quantity: '1', placement: '' })).headers.get('location') ?? '',
    ).pathname;
    const checkout = cart.replace('/cart/', '/checkout/');
    const us = (await post(`${checkout}/sum`, { country: 'US', street: '4 Weir Lane', email: '"><script>' }))
      .text;
    expect(us).toContain('<option value="CA">California</option>');
    expect(us).not.toContain('<script>');
    const again = (await get(checkout)).bytes.toString();
    expect(again).toContain('value="4 Weir Lane"');
    expect(again).toMatch(/<option value="US" selected/);
  });
});
