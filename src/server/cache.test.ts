import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Html, html } from '../core/storefront/html';
import { jsonBytes, jsonWithHtml } from './public/json-html';
import { PreparedAnswers, prepare } from './public/prepared';
import { PerSite } from '../services/cache';

it('what is remembered of a site is made once, until it changes or gets old; failures are not kept', async () => {
  let now = 0;
  let made = 0;
  const memo = new PerSite(5000, () => now);
  const get = () => memo.get('a', 'k', async () => ++made);
  expect([await get(), await get()]).toEqual([1, 1]);
  memo.drop('a');
  expect(await get()).toBe(2);
  now = 5001;
  expect(await get()).toBe(3);
  await expect(
    memo.get('a', 'x', async () => {
      throw new Error('no');
    }),
  ).rejects.toThrow('no');
  expect(await memo.get('a', 'x', async () => 'yes')).toBe('yes');
});

it('whoever asks for ever new things makes it forget, not grow', async () => {
  const memo = new PerSite(5_000);
  for (let n = 0; n < PerSite.LIMIT + 50; n++) await memo.get('a', `question ${n}`, async () => n);
  expect(memo.of('a').size).toBe(PerSite.LIMIT);
  expect(await memo.get('a', `question ${PerSite.LIMIT + 49}`, async () => 'again')).toBe(PerSite.LIMIT + 49);
});

it('what was being made when a change came is not remembered', async () => {
  const memo = new PerSite(5000);
  let finish: (v: string) => void = () => {};
  const old = memo.get(
    'a',
    'k',
    () =>
      new Promise<string>((r) => {
        finish = r;
      }),
  );
  memo.drop('a');
  const fresh = memo.get('a', 'k', async () => 'after');
  finish('before');
  expect([await old, await fresh, await memo.get('a', 'k', async () => 'again')]).toEqual([
    'before',
    'after',
    'after',
  ]);
});

it('prepared answers end by the clock: an offer that ran out is not told on', async () => {
  let now = 0;
  const answers = new PreparedAnswers(() => now);
  const make = (text: string) => async () => prepare(text, {});
  const text = async (t: string) => (await answers.get('s', '/a', make(t))).plain.body.toString();
  expect(await text('one')).toBe('one');
  expect(await text('two')).toBe('one');
  expect(answers.ready('/a')?.plain.body.toString()).toBe('one');
  now = PreparedAnswers.LIFETIME_MS + 1;
  expect(answers.ready('/a')).toBeUndefined();
  expect(await text('two')).toBe('two');
  answers.drop('s');
  expect(await text('three')).toBe('three');
});

it('HTML inside JSON is the same bytes, whether its pieces were kept or not', () => {
  const text = fc.string({ unit: 'binary' });
  fc.assert(
    fc.property(text, text, fc.array(text, { maxLength: 4 }), (a, b, many) => {
      const card = html`<article title="${a}">${b}</article>`;
      card.lasting = true;
      const page = html`<ul>${many.map((m) => html`<li data-x="${m}">${card}</li>`)}</ul>${card}${new Html(a)}`;
      for (let n = 0; n < 2; n++) {
        expect(Buffer.concat(jsonBytes(page)).toString()).toBe(
          Buffer.from(JSON.stringify(page.text)).toString(),
        );
        expect(JSON.parse(jsonWithHtml({ x: a }, 'html', { [b]: page, more: card }).toString())).toEqual(
          JSON.parse(JSON.stringify({ x: a, html: { [b]: page.text, more: card.text } })),
        );
      }
      expect(jsonWithHtml({}, 'html', {}).toString()).toBe('{"html":{}}');
    }),
  );
});
