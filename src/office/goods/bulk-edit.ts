import type { BulkEdit } from '../../core/goods/bulk';
import type { priceEndings, TaxClass, Visibility } from '../../core/goods/choices';
import { parseMoney } from '../../core/money/format';

/** What can be done to many products at once, in the order it is offered. */
export const bulkActs = [
  'price',
  'offer',
  'offer-end',
  'category-in',
  'category-out',
  'tag-in',
  'tag-out',
  'shows',
  'badge',
  'tax',
  'remove',
] as const;
export type BulkAct = (typeof bulkActs)[number];

/** A change as it is being written. What one act does not need waits for another. */
export interface BulkDraft {
  readonly act: BulkAct;
  readonly text: string;
  readonly by: 'percent' | 'amount' | 'set';
  readonly ends: (typeof priceEndings)[number];
  readonly shows: Visibility;
  readonly taxClass: TaxClass;
}

export const startBulk = (act: BulkAct): BulkDraft => ({
  act,
  text: act === 'price' || act === 'offer' ? '10' : '',
  by: 'percent',
  ends: '',
  shows: 'shown',
  taxClass: 'standard',
});

/** The change that is asked for; undefined while it is not whole. Each act has its reader: one that lacks does not compile. */
export const editOf = (draft: BulkDraft, currency: string): BulkEdit | undefined =>
  readers[draft.act](draft, currency);

const percentIn = (text: string): number => Number(text.replace(',', '.').replace('%', '').trim() || 'NaN');
const isWritten = (text: string): boolean => text.trim() !== '';

const readers: Readonly<Record<BulkAct, (d: BulkDraft, currency: string) => BulkEdit | undefined>> = {
  price({ by, text, ends }, currency) {
    if (by === 'percent') {
      const value = percentIn(text);
      return Number.isFinite(value) && value !== 0 ? { do: 'price', by, value, ends } : undefined;
    }
    const amount = parseMoney(text.replace(/^\+/, ''), currency);
    return amount.ok ? { do: 'price', by, value: amount.value, ends } : undefined;
  },
  offer({ text }) {
    const percent = percentIn(text);
    return percent > 0 && percent <= 100 ? { do: 'offer', percent, from: null, until: null } : undefined;
  },
  'offer-end': () => ({ do: 'offer-end' }),
  'category-in': ({ text }) => category(text, 'in'),
  'category-out': ({ text }) => category(text, 'out'),
  'tag-in': ({ text }) => tag(text, 'in'),
  'tag-out': ({ text }) => tag(text, 'out'),
  shows: ({ shows }) => ({ do: 'shows', shows }),
  badge: ({ text }) => ({ do: 'badge', badge: text }),
  tax: ({ taxClass }) => ({ do: 'tax', taxClass }),
  remove: () => ({ do: 'remove' }),
};

const category = (text: string, how: 'in' | 'out'): BulkEdit | undefined =>
  isWritten(text) ? { do: 'category', how, path: text } : undefined;
const tag = (text: string, how: 'in' | 'out'): BulkEdit | undefined =>
  isWritten(text) ? { do: 'tag', how, tag: text } : undefined;
