import { namesOf } from '../entries';
import { type Minor, minor, sum } from '../money/minor';
import type { BasketLine } from './basket';
import { type WeightUnit, weightText } from './weight';

/** A line that is sent, and what it costs after discounts. */
export interface Sent {
  readonly line: BasketLine;
  readonly value: Minor;
}

/** What figures of a measure are told with. */
export interface MeasureWords {
  readonly money: (amount: Minor) => string;
  readonly unit: WeightUnit;
}

/** What the price of a shipping method can go by: one entry, and it can be chosen, worked out and told. */
interface Measure {
  /** As the owner is offered it. */
  readonly name: string;
  /** How the end of a band is asked for: an amount, a weight in the shop's unit, a whole number. */
  readonly asked: 'money' | 'weight' | 'number';
  /** Minor units, grams or pieces of what is sent. */
  readonly of: (sent: readonly Sent[]) => number;
  readonly text: (n: number, words: MeasureWords) => string;
  /** Stands after a figure that does not say it itself; '' where it does. */
  readonly noun: string;
  /** How much farther than the band before a new one ends. Chosen by hand. */
  readonly step: number;
}

export const measures = {
  weight: {
    name: 'by weight',
    asked: 'weight',
    of: (sent) => sent.reduce((n, { line }) => n + (line.grams ?? 0) * line.quantity, 0),
    text: (n, { unit }) => weightText(n, unit),
    noun: '',
    step: 2000,
  },
  value: {
    name: 'by value',
    asked: 'money',
    of: (sent) => sum(sent.map((s) => s.value)),
    text: (n, { money }) => money(minor(n)),
    noun: '',
    step: 5000,
  },
  pieces: {
    name: 'by pieces',
    asked: 'number',
    of: piecesOf,
    text: (n) => `${n}`,
    noun: 'pieces',
    step: 5,
  },
} as const satisfies Readonly<Record<string, Measure>>;

export type MeasureName = keyof typeof measures;
export const measureNames = namesOf(measures);
export const measureOf = (name: MeasureName): Measure => measures[name];

export function piecesOf(sent: readonly Sent[]): number {
  return sent.reduce((n, { line }) => n + line.quantity, 0);
}

/** A figure with its noun: "2 kg", "12.00", "5 pieces". */
export function measureText(name: MeasureName, n: number, words: MeasureWords): string {
  const { text, noun } = measureOf(name);
  return noun ? `${text(n, words)} ${noun}` : text(n, words);
}
