import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { atLinkPrice, lowestBefore, pieceCost, priceNow } from '../goods/price';
import { type Product, productInput } from '../goods/product';
import { type Minor, sum, zero } from '../money/minor';
import { basketOfExample, cents, splitExample } from './pricing-example';
import { type Step, workOut, type WorkedSum } from './worked-sum';

/** Rules of docs/pricing.md by their numbers, each with its examples. */
const rules = readFileSync(new URL('../../../docs/pricing.md', import.meta.url), 'utf8')
  .split(/^\*\*(?=\d+\.\d+\*\*)/m)
  .slice(1)
  .map((part) => ({
    number: part.slice(0, part.indexOf('**')),
    examples: [...part.matchAll(/^- `(.+)`$/gm)].map((m) => m[1] ?? ''),
    written: part.split('\n').filter((l) => l.startsWith('- ')).length,
  }));

describe('docs/pricing.md', () => {
  it('numbers its rules without gaps, and has an example for each', () => {
    const numbers = rules.map((r) => r.number.split('.').map(Number));
    for (const [at, [section = 0, rule = 0]] of numbers.entries()) {
      const [before = 0, last = 0] = numbers[at - 1] ?? [];
      expect(section === before ? rule : `${section}.${rule}`).toBe(
        section === before ? last + 1 : `${before + 1}.1`,
      );
    }
    expect(rules.filter((r) => r.examples.length === 0 || r.examples.length !== r.written)).toEqual([]);
    expect(rules.length).toBeGreaterThan(30);
  });

  for (const { number, examples } of rules)
    for (const example of examples) it(`${number}: ${example}`, () => check(example));
});

function check(example: string): void {
  const { clauses, results } = splitExample(example);
  if (clauses[0]?.startsWith('product ')) {
    checkPiece(clauses, results);
    return;
  }
  if (results[0] === 'refused') {
    expect(() => workOut(basketOfExample(clauses))).toThrow('The limit is');
    return;
  }
  const worked = workOut(basketOfExample(clauses));
  for (const result of results) checkResult(worked, result);
}

function checkResult(w: WorkedSum, result: string): void {
  const code = /^code (\S+) (\S+)$/.exec(result);
  const line = /^line (\d+) (\S+)$/.exec(result);
  const says = /^says (no )?"(.+)"$/.exec(result);
  const amount = /^(goods|discount|shipping|tax off|tax|voucher|pay) (\S+)$/.exec(result);
  if (result === 'no way') expect(w.noWay).toBe('too-much');
  else if (code) expect(w.codes?.find((c) => c.code === code[1])?.status).toBe(code[2]);
  else if (line) {
    const of = w.lines[Number(line[1]) - 1];
    expect((of?.amount ?? 0) - (of?.discount ?? 0)).toBe(cents(line[2] ?? ''));
  } else if (says) expect(w.steps.some((s) => s.rule.includes(says[2] ?? ''))).toBe(says[1] === undefined);
  else if (amount) expect(figure(w, amount[1] ?? ''), result).toBe(cents(amount[2] ?? ''));
  else throw new Error(`no such result: ${result}`);
}

function figure(w: WorkedSum, name: string): number {
  const of = (...kinds: Step['kind'][]): Minor =>
    sum(w.steps.filter((s) => kinds.includes(s.kind)).map((s) => s.amount));
  switch (name) {
    case 'goods':
      return of('goods');
    case 'discount':
      return Math.abs(of('discount'));
    case 'shipping':
      return of('shipping');
    case 'tax':
      return w.totals?.tax ?? zero;
    case 'tax off':
      return Math.abs(of('abroad'));
    case 'voucher':
      return Math.abs(of('voucher'));
    default:
      return w.total;
  }
}

const now = Date.UTC(2026, 10, 26);

const offerOf = (text: string) =>
  text.endsWith('%')
    ? { kind: 'percent', value: Number(text.slice(0, -1)) }
    : { kind: 'amount', value: cents(text) };

function checkPiece(clauses: readonly string[], results: readonly string[]): void {
  const said = new Map(
    clauses.map((c) => [c.slice(0, c.indexOf(' ')), c.slice(c.indexOf(' ') + 1)] as const),
  );
  const known = ['product', 'variant', 'difference', 'offer', 'link', 'least', 'named', 'text', 'lowest'];
  expect([...said.keys()].filter((k) => !known.includes(k))).toEqual([]);
  const amount = (name: string): Minor | null => {
    const text = said.get(name);
    return text === undefined ? null : cents(text);
  };
  const offer = said.get('offer');
  const form = productInput.parse({
    name: 'Thing',
    price: amount('product'),
    openLeast: amount('least'),
    offer: offer ? offerOf(offer) : null,
    linkPrices: said.has('link') ? [{ key: 'abcdefgh', name: 'Friends', price: amount('link') }] : [],
    texts: said.has('text') ? [{ label: 'Name', price: amount('text') }] : [],
    variants: [{ values: [], price: amount('variant'), difference: amount('difference') }],
  }) as unknown as Product;
  const p = atLinkPrice(form, said.has('link') ? 'abcdefgh' : '');
  const variant = p.variants[0] as Product['variants'][number];
  const written = { named: amount('named'), texts: p.texts.map(() => 'Ann') };
  const lowest = amount('lowest');
  const history = lowest === null ? undefined : lowestBefore([{ at: now - 86_400_000, price: lowest }], now);
  for (const result of results) {
    const [, name = '', value = ''] = /^(piece|before|nothing) (\S+)$/.exec(result) ?? [];
    if (name === 'piece') expect(pieceCost(p, variant, written, now)).toBe(cents(value));
    else expect(priceNow(p, variant, now, history).was).toBe(name === 'before' ? cents(value) : null);
  }
}
