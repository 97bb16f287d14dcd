import { randomBytes } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { post } from '../local-request';
import type { NoticeType, Outcome, Payment } from './payment';
import { sign } from './signature';

/**
 * What all make-believe providers have in common: the payment interface of docs/payment-provider.md, signed notices, and a
 * memory in one file. They know nothing else of the shop. No money moves.
 */
export interface Provider {
  readonly name: string;
  readonly port: number;
  readonly key: string;
  /** Standard Webhooks secret, "whsec_…". */
  readonly secret: string;
  readonly origin: string;
  /** File that payments are kept in; nothing for memory alone. */
  readonly file: string | undefined;
  readonly page: (payment: Payment, problem?: string) => string;
  /** What a press on the page does; or the page again. */
  readonly press: (payment: Payment, form: URLSearchParams) => Outcome | { readonly page: string };
  /** Charges a mandate again; nothing where it is not known. */
  readonly charge?: (mandate: string) => Outcome | undefined;
  /** Seconds until a refund is done; nought is at once. */
  readonly refundLate: number;
}

const json = (res: ServerResponse, status: number, body: unknown): void => {
  res.writeHead(status, { 'content-type': 'application/json' });
  res.end(JSON.stringify(body));
};

const html = (res: ServerResponse, status: number, body: string): void => {
  res.writeHead(status, {
    'content-type': 'text/html; charset=utf-8',
    'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'",
  });
  res.end(body);
};

const go = (res: ServerResponse, location: string): void => void res.writeHead(303, { location }).end();

const unknownPage = '<!doctype html><title>Unknown payment</title><p>This payment is not known here.';

function closedPage({ declinedUrl }: Payment): string {
  const href = declinedUrl.replace(/["&<>]/g, (c) => `&#${c.charCodeAt(0)};`);
  return `<!doctype html><html lang="en"><title>Closed</title><meta name="viewport" content="width=device-width"><p>This payment was closed: the basket it was for has changed. Nothing was charged. <a href="${href}">Back to the shop</a>`;
}

async function read(req: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of req) {
    text += chunk;
    if (text.length > 100_000) throw new Error('too large');
  }
  return text;
}

interface Refund {
  state: 'open' | 'done' | 'failed';
  readonly detail: string;
}

interface Asked extends Omit<Payment, 'id' | 'state' | 'detail'> {
  /** Of a charge: what may be charged again. Of a refund: the payment. */
  readonly payment?: string;
}

const newId = (start: string): string => `${start}_${randomBytes(9).toString('hex')}`;
const wait = (seconds: number): Promise<void> => new Promise((soon) => setTimeout(soon, seconds * 1000));

/** @returns the server; port 0 takes any that is free. */
export function serve(p: Provider): Server {
  const kept = p.file ? load(p.file) : undefined;
  const payments = new Map<string, Payment>(kept?.payments ?? []);
  const refunds = new Map<string, Refund>(kept?.refunds ?? []);
  const byReference = new Map(
    [...payments.values()].filter((x) => x.state !== 'declined').map((x) => [x.reference, x.id]),
  );
  const save = () =>
    p.file &&
    writeFileSync(
      p.file,
      JSON.stringify({ payments: [...payments].slice(-2_000), refunds: [...refunds].slice(-2_000) }),
    );

  const acts: Readonly<Record<string, (res: ServerResponse, asked: Asked) => void>> = {
    '/v1/payments': start,
    '/v1/charges': charge,
    '/v1/refunds': refund,
  };

  async function api(req: IncomingMessage, res: ServerResponse, path: string): Promise<void> {
    if (req.headers.authorization !== `Bearer ${p.key}`) return json(res, 401, { title: 'Unknown key' });
    const closing = /^\/v1\/payments\/([\w-]+)\/close$/.exec(path)?.[1];
    const work = acts[path];
    if (req.method === 'POST' && closing) return close(res, closing);
    if (req.method === 'POST' && work) return work(res, JSON.parse(await read(req)) as Asked);
    const payment = payments.get(path.slice('/v1/payments/'.length));
    if (!payment) return json(res, 404, { title: 'Unknown payment' });
    json(res, 200, stateOf(payment));
  }

  /** The same reference again is the same payment. */
  function start(res: ServerResponse, asked: Asked): void {
    const id = byReference.get(asked.reference) ?? newId('pay');
    if (!payments.has(id)) {
      payments.set(id, { ...asked, id, state: 'open', detail: '' });
      byReference.set(asked.reference, id);
      save();
    }
    json(res, 201, { id, url: `${p.origin}/pay/${id}` });
  }

  function charge(res: ServerResponse, asked: Asked): void {
    const outcome = p.charge?.(asked.mandate ?? '');
    if (!outcome) return void json(res, 404, { title: 'Unknown mandate' });
    const known = byReference.get(asked.reference);
    const id = known ?? newId('pay');
    if (!known) {
      const made: Payment = {
        ...asked,
        id,
        approvedUrl: '',
        declinedUrl: '',
        state: outcome.state,
        detail: outcome.detail,
      };
      payments.set(id, made);
      byReference.set(asked.reference, id);
      save();
      sendNotices(made, outcome);
    }
    const { state = 'open', detail = '' } = payments.get(id) ?? {};
    json(res, 201, { id, state, detail });
  }

  /**
   * The shop takes a payment page back: whoever still has it open pays nothing any more. What was paid
   * stays paid.
   */
  function close(res: ServerResponse, id: string): void {
    const payment = payments.get(id);
    if (!payment) return void json(res, 404, { title: 'Unknown payment' });
    if (payment.state === 'open') {
      Object.assign(payment, { state: 'declined', detail: 'Closed by the shop', closed: true });
      byReference.delete(payment.reference);
      save();
    }
    json(res, 200, stateOf(payment));
  }

  /** Never more than was paid; the same reference again is the same refund. */
  function refund(
    res: ServerResponse,
    { payment: id = '', reference, amount, currency, noticeUrl }: Asked,
  ): void {
    const known = refunds.get(reference);
    if (known) return void json(res, 200, known);
    const payment = payments.get(id);
    const why = whyNot(payment, amount, currency);
    const accepted = p.refundLate > 0 ? 'open' : 'done';
    const made: Refund = { state: why ? 'failed' : accepted, detail: why || (payment?.detail ?? '') };
    refunds.set(reference, made);
    if (payment && !why) payment.refunded = (payment.refunded ?? 0) + amount;
    save();
    if (made.state === 'open') {
      void wait(p.refundLate).then(() => {
        made.state = 'done';
        save();
        return notice(noticeUrl, 'refund.done', {
          id: reference,
          reference,
          amount,
          currency,
          detail: made.detail,
        });
      });
    }
    json(res, 201, made);
  }

  async function pay(req: IncomingMessage, res: ServerResponse, id: string): Promise<void> {
    const payment = payments.get(id);
    if (!payment) return html(res, 404, unknownPage);
    if (payment.state === 'approved') return go(res, payment.approvedUrl);
    if (payment.closed) return html(res, 410, closedPage(payment));
    if (req.method !== 'POST') return html(res, 200, p.page(payment));
    const form = new URLSearchParams(await read(req));
    if (form.get('leave')) return go(res, payment.declinedUrl);
    const outcome = p.press(payment, form);
    if ('page' in outcome) return html(res, 422, outcome.page);
    decide(payment, outcome);
    sendNotices(payment, outcome);
    go(res, outcome.to ?? (outcome.state === 'declined' ? payment.declinedUrl : payment.approvedUrl));
  }

  function decide(payment: Payment, outcome: Outcome): void {
    Object.assign(payment, {
      state: outcome.state,
      detail: outcome.detail,
      ...(outcome.mandate && { mandate: outcome.mandate }),
    });
    // A declined reference may be tried again, as a payment of its own.
    if (outcome.state === 'declined') byReference.delete(payment.reference);
    save();
  }

  /** How many notices of a payment are still to come; tests ask, so that they need not guess how long to wait. */
  const onTheirWay = new Map<string, number>();

  function sendNotices(payment: Payment, { notices }: Outcome): void {
    const { id, reference, amount, currency, detail, mandate = '', noticeUrl } = payment;
    const data = { id, reference, amount, currency, detail, ...(mandate && { mandate }) };
    onTheirWay.set(id, (onTheirWay.get(id) ?? 0) + notices.length);
    for (const n of notices)
      void wait(n.late)
        .then(() => notice(noticeUrl, n.type, data, n.times))
        .finally(() => onTheirWay.set(id, (onTheirWay.get(id) ?? 1) - 1));
  }

  /** Sends a notice, and again with growing pauses until it is taken; `times` is how often it goes out though it was taken. */
  async function notice(url: string, type: NoticeType, data: object, times = 1): Promise<void> {
    const id = newId('msg');
    const body = JSON.stringify({ type, data });
    let sent = 0;
    for (let tries = 0; tries < 8 && sent < times; tries++) {
      const status = await post(url, sign(p.secret, id, Math.floor(Date.now() / 1000), body), body).catch(
        () => 0,
      );
      if (status >= 200 && status < 300) sent++;
      else await wait(0.5 * 2 ** tries);
    }
  }

  return createServer((req, res) => {
    const path = new URL(req.url ?? '/', p.origin).pathname;
    if (path.startsWith('/waiting/')) return void res.end(`${onTheirWay.get(path.slice(9)) ?? 0}`);
    const work = path.startsWith('/v1/') ? api(req, res, path) : pay(req, res, path.replace('/pay/', ''));
    work.catch(() => res.headersSent || json(res, 400, { title: 'That request makes no sense here.' }));
  })
    .listen(p.port, '127.0.0.1', () => process.send?.({ ready: true }))
    .on('error', (e: NodeJS.ErrnoException) => {
      process.stderr.write(
        `The stand-in ${p.name} cannot listen on port ${p.port} (${e.code}). Choose other ports with --port N.\n`,
      );
      process.exit(1);
    });
}

interface Kept {
  readonly payments: readonly [string, Payment][];
  readonly refunds: readonly [string, Refund][];
}

/** A file that is not there, or that cannot be read, is an empty memory: nothing here is worth a failure. */
function load(file: string): Kept | undefined {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Kept;
  } catch {
    return undefined;
  }
}

const stateOf = ({ id, reference, state, amount, currency, detail, mandate = '' }: Payment) => ({
  id,
  reference,
  state,
  amount,
  currency,
  detail,
  mandate,
});

/** Why a payment is not refunded; nothing where it is. */
function whyNot(payment: Payment | undefined, amount: number, currency: string): string {
  if (!payment) return 'This payment is not known here';
  if (payment.state !== 'approved') return 'This payment was never taken';
  const more = payment.currency !== currency || (payment.refunded ?? 0) + amount > payment.amount;
  return more ? 'That is more than was paid' : '';
}
