import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Webhook } from 'standardwebhooks';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { pressCard, testCards } from '../card-provider/cards';
import { scenarios } from '../wallet/scenarios';
import { serve } from './service';

const secret = `whsec_${Buffer.from('a secret of the stand-in, tested').toString('base64')}`;
const heard: { type: string; data: Record<string, unknown> }[] = [];
let shop: Server;
let provider: Server;
let api = '';
let noticeUrl = '';

beforeEach(async () => {
  heard.length = 0;
  shop = createServer(async (req, res) => {
    let raw = '';
    for await (const chunk of req) raw += chunk;
    // Checked by the specification's own library, not by ours.
    heard.push(
      new Webhook(secret).verify(raw, req.headers as Record<string, string>) as (typeof heard)[number],
    );
    res.writeHead(200).end();
  });
  await new Promise<void>((ready) => shop.listen(0, '127.0.0.1', ready));
  noticeUrl = `http://127.0.0.1:${(shop.address() as AddressInfo).port}/notices`;
  provider = serve({
    name: 'provider',
    port: 0,
    key: 'k',
    secret,
    origin: 'http://provider.test',
    file: undefined,
    refundLate: 0,
    page: (p, problem) => `page ${p.id} ${problem ?? ''}`,
    press: (p, form) =>
      form.get('card')
        ? (pressCard(testCards[0] as (typeof testCards)[number], p, '') as Exclude<
            ReturnType<typeof pressCard>,
            string
          >)
        : { page: 'again' },
  });
  await new Promise<void>((ready) =>
    provider.listening ? ready() : void provider.once('listening', () => ready()),
  );
  api = `http://127.0.0.1:${(provider.address() as AddressInfo).port}`;
});
afterEach(() => {
  shop.close();
  provider.close();
});

const ask = async (path: string, body: object, key = 'k') => {
  const answer = await fetch(`${api}/v1${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { authorization: `Bearer ${key}` },
  });
  return { status: answer.status, body: (await answer.json()) as Record<string, string> };
};
const payment = (reference: string) => ({
  reference,
  amount: 4200,
  currency: 'GBP',
  payee: 'P',
  description: 'D',
  approvedUrl: 'http://a.test/',
  declinedUrl: 'http://d.test/',
  noticeUrl,
});
const press = (id: string, form: Record<string, string>) =>
  fetch(`${api}/pay/${id}`, { method: 'POST', body: new URLSearchParams(form), redirect: 'manual' });

describe('a make-believe provider', () => {
  it('wants its key, and answers the same reference with the same payment', async () => {
    expect((await ask('/payments', payment('r'), 'wrong')).status).toBe(401);
    const one = await ask('/payments', payment('r'));
    expect((await ask('/payments', payment('r'))).body).toEqual(one.body);
    expect((await ask('/payments', payment('other'))).body.id).not.toBe(one.body.id);
  });

  it('sends the shopper back and a notice that the specification’s own library verifies', async () => {
    const { body } = await ask('/payments', payment('r'));
    expect((await press(body.id ?? '', {})).status).toBe(422);
    const paid = await press(body.id ?? '', { card: '1' });
    expect([paid.status, paid.headers.get('location')]).toEqual([303, 'http://a.test/']);
    await expect.poll(() => heard.length).toBe(1);
    expect(heard[0]).toMatchObject({
      type: 'payment.approved',
      data: { reference: 'r', amount: 4200, currency: 'GBP' },
    });
    const state = (await (
      await fetch(`${api}/v1/payments/${body.id}`, { headers: { authorization: 'Bearer k' } })
    ).json()) as object;
    expect(state).toMatchObject({ state: 'approved', reference: 'r' });
  });

  it('gives back once for a reference, and never more than was paid', async () => {
    const { body } = await ask('/payments', payment('r'));
    const refund = (reference: string, amount: number) =>
      ask('/refunds', { payment: body.id, reference, amount, currency: 'GBP', noticeUrl });
    expect((await refund('before', 100)).body.state).toBe('failed');
    await press(body.id ?? '', { card: '1' });
    expect((await refund('a', 4000)).body.state).toBe('done');
    expect((await refund('a', 4000)).body.state).toBe('done');
    expect((await refund('b', 300)).body.state).toBe('failed');
    expect((await refund('c', 200)).body.state).toBe('done');
    expect(
      (await ask('/refunds', { payment: 'nope', reference: 'd', amount: 1, currency: 'GBP', noticeUrl })).body
        .state,
    ).toBe('failed');
  });
});

describe('cards and wallet', () => {
  it('do what stands beside them: each ends where it says', () => {
    const ends = testCards.map((c) => {
      const outcome = pressCard(c, { approvedUrl: 'a', declinedUrl: 'd' }, '246810');
      return outcome === 'wrong-code' ? outcome : outcome.state;
    });
    expect(ends).toEqual([
      'approved',
      'declined',
      'approved',
      'approved',
      'approved',
      'approved',
      'declined',
      'open',
    ]);
    const confirm = testCards.find((c) => c.outcome === 'confirm');
    expect(confirm && pressCard(confirm, { approvedUrl: '', declinedUrl: '' }, '000000')).toBe('wrong-code');
    // A wallet that pays never has a declined notice as the only one, and the one that never tells has none.
    for (const [name, { outcome }] of Object.entries(scenarios)) {
      const types = outcome.notices.map((n) => n.type);
      expect(types.includes('payment.approved' as never), name).toBe(
        outcome.state === 'approved' && name !== 'never',
      );
    }
  });
});
