import ICAL from 'ical.js';
import { simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { letters, orderEvents } from '../../data/schema';
import type { Letter } from '../mail/mailer';
import { mailOf } from '../mail/mailer';
import { addToCart } from '../till/add-to-cart';
import { goToPay } from '../till/go-to-pay';
import { actOnOrder } from '../till/fulfil';
import { refundOrder } from '../till/refunds';
import { makeWorld, type World } from '../testing';
import { lettersOfTheDay } from './clock';
import { appointment } from './compose';
import { lettersWaiting } from '../mail/letters-waiting';
import { sendDue } from './outbox';
import { lettersView, previewLetter } from './preview';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 5);
  await w.till('seller', { email: 'hello@weavers.example' });
});
afterEach(() => w.end());

const sent = async () => {
  await sendDue(w.ctx);
  return w.letters.map((l) => [l.to, l.subject]);
};
const DAY = 86_400_000;

/** The letter as it goes over the wire, read by a parser that is not ours (RFC 5322). */
async function overTheWire(letter: Letter) {
  const { message } = await createTransport({ streamTransport: true, buffer: true }).sendMail(
    mailOf(letter, 'shop@weavers.example'),
  );
  return simpleParser(message as Buffer);
}

describe('letters about orders', () => {
  it('go to buyer and owner when it is paid, once, and stand in the timeline', async () => {
    await w.buy([{ goods: 'trug' }]);
    expect((await sent()).sort()).toEqual([
      ['ada@penhallow.example', 'Your order 1001 at Tiny'],
      ['hello@weavers.example', 'Order 1001: £42.00 from Ada Penhallow'],
    ]);
    expect(await sendDue(w.ctx)).toBe(0);
    expect((await w.orders())[0]?.events.at(-1)?.what).toBe('Letter: Your order 1001 at Tiny');
  });

  it('are read by a mail parser as what they are: addresses, names, text, HTML, the date for a calendar (RFC 5322, RFC 5545)', async () => {
    await w.addGoods('Workshop, two days', 18_000, 8, {
      kind: 'event',
      event: {
        start: '2026-12-05T09:30:00.000Z',
        end: '2026-12-05T16:00:00.000Z',
        place: 'The shed',
        address: '4 Weir Lane',
      },
    });
    await w.buy([{ goods: 'workshop-two-days' }], 'ada@penhallow.example', { name: 'Ada "A." Pénhallow' });
    await sent();
    w.clock.ms = Date.UTC(2026, 11, 3, 12);
    expect(await lettersOfTheDay(w.ctx)).toBe(1);
    expect(await lettersOfTheDay(w.ctx)).toBe(0);
    await sent();
    const letter = w.letters.at(-1) as Letter;
    const mail = await overTheWire(letter);
    expect(mail.subject).toBe(letter.subject);
    expect(mail.from?.value[0]).toMatchObject({ name: 'Tiny', address: 'shop@weavers.example' });
    expect(mail.replyTo?.value[0]?.address).toBe('hello@weavers.example');
    expect(mail.text).toContain('Ada "A." Pénhallow');
    expect(mail.html).toContain('<p>');
    const ics = mail.attachments.find(
      (a) => a.contentType.startsWith('text/calendar') || a.filename?.endsWith('.ics'),
    );
    const event = new ICAL.Event(
      new ICAL.Component(ICAL.parse(ics?.content.toString('utf8') ?? '')).getFirstSubcomponent(
        'vevent',
      ) as InstanceType<typeof ICAL.Component>,
    );
    expect([
      event.summary,
      event.location,
      event.startDate.toJSDate().toISOString(),
      event.endDate.toJSDate().toISOString(),
    ]).toEqual([
      'Workshop, two days',
      'The shed, 4 Weir Lane',
      '2026-12-05T09:30:00.000Z',
      '2026-12-05T16:00:00.000Z',
    ]);
  });

  it('tell the buyer where to transfer the money, and the owner that it is not there yet', async () => {
    await w.till('pay', {
      ways: [{ id: 't', kind: 'transfer', words: 'In seven days, please.', iban: 'GB82WEST12345698765432' }],
    });
    await w.order([{ goods: 'trug' }]);
    await sent();
    const [toBuyer, toOwner] = ['ada@penhallow.example', 'hello@weavers.example'].map(
      (to) => w.letters.find((l) => l.to === to)?.text ?? '',
    );
    expect(toBuyer).toContain('In seven days, please.\nIBAN: GB82 WEST 1234 5698 7654 32\nReference: RF');
    expect(toOwner).toContain('Bank transfer: Waiting for the payment');
    expect(toOwner).not.toContain('In seven days');
  });

  it('of being sent wait for second thoughts, and tell carrier and number', async () => {
    await w.buy([{ goods: 'trug' }]);
    await sent();
    const [order] = await w.orders();
    await actOnOrder(
      w.ctx,
      await w.site(),
      order?.id ?? '',
      { act: 'send', carrier: 'Parcel post', tracking: 'RR473124829GB' },
      'Marnie',
    );
    expect(await sendDue(w.ctx)).toBe(0);
    w.clock.ms += 21_000;
    expect(await sendDue(w.ctx)).toBe(1);
    expect(w.letters.at(-1)?.text).toContain('Tracking: Parcel post, RR473124829GB');
  });

  it('of a refund say how much and why', async () => {
    await w.buy([{ goods: 'trug' }]);
    await refundOrder(
      w.ctx,
      await w.site(),
      (await w.orders())[0]?.id ?? '',
      { amount: 550, reason: 'A loose handle' },
      'Marnie',
    );
    await sent();
    expect(w.letters.find((l) => l.subject.startsWith('Refund'))?.text).toMatch(
      /we have refunded £5\.50 of your order \d+\.\n(?:.*\n)?A loose handle/,
    );
  });

  it('that the owner switched off do not go out; those with own words have them', async () => {
    await w.till('letters', {
      confirmation: { on: true, subject: 'Ta, {buyer}', text: 'It is {number}.' },
      'to-owner': { on: false },
    });
    await w.buy([{ goods: 'trug' }]);
    expect(await sent()).toEqual([['ada@penhallow.example', 'Ta, Ada Penhallow']]);
    expect(w.letters[0]?.text).toBe('It is 1001.\n');
    expect(await w.ctx.store.db.$count(letters)).toBe(1);
    await expect(w.till('letters', { sent: { on: true, subject: '{nonsense}', text: 'x' } })).rejects.toThrow(
      'does not know {nonsense}',
    );
  });

  it('that a mail server refuses are tried again with growing pauses, and given up with a word in the timeline', async () => {
    await w.buy([{ goods: 'trug' }]);
    const down = { ...w.ctx, mail: { send: () => Promise.reject(new Error('451 later')) } };
    for (let n = 0; n < 8; n++) {
      await sendDue(down);
      w.clock.ms += DAY;
    }
    expect(await lettersWaiting(w.ctx, (await w.site()).row.id)).toMatchObject({ waiting: 0, givenUp: 2 });
    expect(await w.ctx.store.db.$count(orderEvents, eq(orderEvents.what, 'A letter could not be sent'))).toBe(
      2,
    );
    expect(await sent()).toEqual([]);
  });

  it('without a mail server wait, and two rounds at once send each of them once', async () => {
    await w.buy([{ goods: 'trug' }]);
    expect(await sendDue({ ...w.ctx, mail: undefined })).toBe(0);
    await Promise.all([sendDue(w.ctx), sendDue(w.ctx), sendDue(w.ctx)]);
    expect(w.letters).toHaveLength(2);
  });
});

describe('letters of the calendar', () => {
  it('ask for a review once, some days after it was sent, and not of orders of long ago', async () => {
    await w.till('letters', { review: { on: true, days: 14 } });
    await w.buy([{ goods: 'trug' }]);
    await actOnOrder(w.ctx, await w.site(), (await w.orders())[0]?.id ?? '', { act: 'send' }, 'Marnie');
    expect(await lettersOfTheDay(w.ctx)).toBe(0);
    w.clock.ms += 15 * DAY;
    expect([await lettersOfTheDay(w.ctx), await lettersOfTheDay(w.ctx)]).toEqual([1, 0]);
    await sendDue(w.ctx);
    expect(w.letters.at(-1)?.text).toMatch(/\/tiny\/reviews\//);
  });

  it('remind of a cart left behind only those who asked for it, once, while something is in it', async () => {
    await w.till('letters', { 'left-behind': { on: true, days: 1 } });
    const site = await w.site();
    const leave = async (email: string, remind: boolean) => {
      const cart = await addToCart(
        w.ctx,
        site,
        null,
        { goods: 'trug', quantity: 1, placement: null, page: '/' },
        null,
      );
      await goToPay(
        w.ctx,
        site,
        cart.token,
        { email, name: 'B', street: 'S', town: 'T', postcode: 'WB4 2TR', country: 'GB', total: 4200, remind },
        'site',
      );
      return cart.token;
    };
    const token = await leave('yes@x.example', true);
    await leave('no@x.example', false);
    expect(await lettersOfTheDay(w.ctx)).toBe(0);
    w.clock.ms += 1.5 * DAY;
    expect([await lettersOfTheDay(w.ctx), await lettersOfTheDay(w.ctx)]).toEqual([1, 0]);
    await sendDue(w.ctx);
    expect(w.letters.map((l) => l.to)).toEqual(['yes@x.example']);
    expect(w.letters[0]?.text).toContain(`/tiny/cart/${token}`);
  });
});

describe('the office', () => {
  it('sees each letter’s words, and how it would look with the latest order', async () => {
    await w.buy([{ goods: 'trug' }]);
    const site = await w.site();
    expect((await lettersView(w.ctx, site)).kinds.find((k) => k.kind === 'review')).toMatchObject({
      on: false,
    });
    const seen = await previewLetter(w.ctx, site, {
      kind: 'sent',
      subject: 'For {buyer}',
      text: '{goods}\n\n{what}',
    });
    expect(seen).toMatchObject({ subject: 'For Ada Penhallow', unknown: ['what'] });
    expect(seen.html).toContain('1 × Trug');
  });

  it('an appointment without an end lasts an hour, and odd names stay names', () => {
    const text = appointment({
      id: 'x',
      name: 'Bend; weave, & \\ rest\nEND:VEVENT',
      start: '2026-12-05T09:30:00.000Z',
      end: null,
      where: '',
      from: 'S',
      now: new Date(0),
    });
    const event = new ICAL.Event(
      new ICAL.Component(ICAL.parse(text)).getFirstSubcomponent('vevent') as InstanceType<
        typeof ICAL.Component
      >,
    );
    expect(event.summary).toBe('Bend; weave, & \\ rest\nEND:VEVENT');
    expect(event.duration.toSeconds()).toBe(3600);
  });
});
