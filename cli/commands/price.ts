import { readFile } from 'node:fs/promises';
import { formatMoney } from '../../src/core/money/format';
import type { Minor } from '../../src/core/money/minor';
import { basketSchema, priceFile } from '../../src/core/till/basket-file';
import { type Command, UsageError } from '../support/command';

export const price: Command = {
  name: 'price',
  about: 'Works out a basket: every step with its rule, to the minor unit.',
  usage: 'price (basket.json | --schema)',
  help: 'The same function as the checkout and "Try a cart". Amounts are in minor units, weights in grams; docs/basket.schema.json has the form, --schema prints it.\nExit status is 1 when nothing can be sent where the basket goes.',
  options: { schema: { type: 'boolean' } },
  needs: [],
  may: ['basket.json'],
  async run({ args: [file], flags }, out) {
    if (flags.schema) {
      out.give(basketSchema());
      out.say(JSON.stringify(basketSchema(), null, 2));
      return 0;
    }
    if (!file) throw new UsageError('basket.json is missing');
    const data = await readJson(file);
    const worked = priceFile(data);
    if (!worked.ok) throw new UsageError(`${file}: ${worked.error}`);
    const { steps, total, currency, noWay, codes = [] } = worked.value;
    const locale = String((data as { locale?: string }).locale ?? 'en');
    const money = (amount: Minor) => formatMoney({ amount, currency }, locale);
    out.give(worked.value);
    for (const s of steps)
      out.say(
        `${s.what.padEnd(34)} ${(s.kind === 'included' ? `(${money(s.amount)})` : money(s.amount)).padStart(14)}  ${s.rule}`,
      );
    out.say(`${'To pay'.padEnd(34)} ${money(total).padStart(14)}`);
    for (const c of codes)
      if (c.status !== 'applied' && c.status !== 'voucher') out.warn(`code ${c.code}: ${c.status}`);
    if (noWay)
      out.warn(
        noWay === 'no-region'
          ? 'nothing can be sent there: no region holds the place'
          : 'nothing can be sent there: the basket is beyond every band',
      );
    return noWay ? 1 : 0;
  },
};

async function readJson(file: string): Promise<unknown> {
  const text = await readFile(file, 'utf8').catch(() => {
    throw new UsageError(`${file} cannot be read`);
  });
  try {
    return JSON.parse(text);
  } catch {
    throw new UsageError(`${file} holds no JSON`);
  }
}
