import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { post } from '../local-request';
import { type TestCard, testCards } from './cards';
import { payPage } from './pay-page';
import type { Payment } from './payment';
import { sign } from './signature';

/**
 * A make-believe card provider, on an origin of its own. It speaks the payment interface of docs/payment-provider.md
 * and knows nothing else of the shop. No money moves.
 */

const port = Number(process.env.CARDS_PORT ?? 4604);
const key = process.env.CARDS_KEY ?? '';
const secret = process.env.CARDS_NOTICE_SECRET ?? '';
const origin = process.env.CARDS_URL ?? `http://cards.localhost:${port}`;
const payments = new Map<string, Payment>();
const byReference = new Map<string, string>();
/** Cards that may be charged again, by the mandate they gave. */
const mandates = new Map<string, TestCard>();

const json = (res: ServerResponse, status: number, body: unknown) => {
  res.writeHead(status, { 'content-type': 'application/json' });
  res.end(JSON.stringify(body));
};

async function read(req: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of req) {
    text += chunk;
    if (text.length > 100_000) throw new Error('too large');
  }
  return text;
}

async function api(req: IncomingMessage, res: ServerResponse, path: string): Promise<void> {
  if (req.headers.authorization !== `Bearer ${key}`) return json(res, 401, { title: 'Unknown key' });
  if (req.method === 'POST' && path === '/v1/payments') {
    const asked = JSON.parse(await read(req)) as Omit<Payment, 'id' | 'state' | 'detail'>;
    const known = byReference.get(asked.reference);
    const id = known ?? `pay_${randomBytes(9).toString('hex')}`;
    if (!known) {
      payments.set(id, { ...asked, id, state: 'open', detail: '' });
      byReference.set(asked.reference, id);
    }
    return json(res, 201, { id, url: `${origin}/pay/${id}` });
  }
  if (req.method === 'POST' && path === '/v1/charges') return void charge(res, JSON.parse(await read(req)) as Payment & { mandate: string });
  const payment = payments.get(path.slice('/v1/payments/'.length));
  if (!payment) return json(res, 404, { title: 'Unknown payment' });
  json(res, 200, { id: payment.id, reference: payment.reference, state: payment.state, detail: payment.detail, mandate: payment.mandate ?? '' });
}

/** Charges a kept card again. The same reference again is the same charge. */
function charge(res: ServerResponse, asked: Payment & { mandate: string }): void {
  const card = mandates.get(asked.mandate);
  if (!card) return void json(res, 404, { title: 'Unknown mandate' });
  const known = byReference.get(asked.reference);
  const id = known ?? `pay_${randomBytes(9).toString('hex')}`;
  if (!known) {
    const ending = `card ending ${card.number.slice(-4)}`;
    const made: Payment = { ...asked, id, approvedUrl: '', declinedUrl: '', state: card.onceOnly ? 'declined' : 'approved', detail: card.onceOnly ? `Declined by the bank, ${ending}` : ending };
    payments.set(id, made);
    byReference.set(asked.reference, id);
    void notify(made, card.late, card.times);
  }
  const { state = 'open', detail = '' } = payments.get(id) ?? {};
  json(res, 201, { id, state, detail });
}

async function pay(req: IncomingMessage, res: ServerResponse, id: string): Promise<void> {
  const payment = payments.get(id);
  const html = (status: number, body: string) => {
    res.writeHead(status, { 'content-type': 'text/html; charset=utf-8', 'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'" });
    res.end(body);
  };
  if (!payment) return html(404, '<!doctype html><title>Unknown payment</title><p>This payment is not known here.');
  if (payment.state === 'approved') return void res.writeHead(303, { location: payment.approvedUrl }).end();
  if (req.method !== 'POST') return html(200, payPage(payment));
  const form = new URLSearchParams(await read(req));
  if (form.get('leave')) return void res.writeHead(303, { location: payment.declinedUrl }).end();
  const number = (form.get('number') ?? '').replace(/\D/g, '');
  const card = testCards.find((c) => c.number === number);
  if (!card) return html(422, payPage(payment, 'This number is not one of the test cards below.'));
  const approved = card.outcome === 'approve';
  payment.state = approved ? 'approved' : 'declined';
  payment.detail = approved ? `card ending ${number.slice(-4)}` : `${card.says}, card ending ${number.slice(-4)}`;
  if (approved && payment.again) {
    payment.mandate = `man_${randomBytes(9).toString('hex')}`;
    mandates.set(payment.mandate, card);
  }
  void notify(payment, card.late, card.times);
  res.writeHead(303, { location: approved ? payment.approvedUrl : payment.declinedUrl }).end();
  if (!approved) byReference.delete(payment.reference);
}

/** Sends the notice, and again with growing pauses until it is taken. */
async function notify(payment: Payment, late: number, times: number): Promise<void> {
  const id = `msg_${randomBytes(12).toString('hex')}`;
  const { amount, currency, reference, detail, mandate = '' } = payment;
  const body = JSON.stringify({ type: `payment.${payment.state}`, data: { id: payment.id, reference, amount, currency, detail, ...(mandate && { mandate }) } });
  await new Promise((soon) => setTimeout(soon, late * 1000));
  let sent = 0;
  for (let tries = 0; tries < 8 && sent < times; tries++) {
    const status = await post(payment.noticeUrl, sign(secret, id, Math.floor(Date.now() / 1000), body), body).catch(() => 0);
    if (status >= 200 && status < 300) sent++;
    else await new Promise((soon) => setTimeout(soon, 500 * 2 ** tries));
  }
}

createServer((req, res) => {
  const path = new URL(req.url ?? '/', origin).pathname;
  const work = path.startsWith('/v1/') ? api(req, res, path) : pay(req, res, path.replace('/pay/', ''));
  work.catch(() => json(res, 400, { title: 'That request makes no sense here.' }));
}).listen(port, '127.0.0.1', () => process.send?.({ ready: true }))
  .on('error', (e: NodeJS.ErrnoException) => {
    process.stderr.write(`The stand-in card provider cannot listen on port ${port} (${e.code}). Choose other ports with --port N.\n`);
    process.exit(1);
  });
