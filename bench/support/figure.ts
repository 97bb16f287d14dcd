/** One measured figure, with what it is held against. */
export interface Figure {
  readonly what: string;
  readonly value: string;
  readonly baseline: string;
  readonly ratio: string;
  readonly aim: string;
}
export type Measurement = () => Promise<Figure[]>;

export const figure = (what: string, value: string, baseline = '', ratio = '', aim = ''): Figure => ({
  what,
  value,
  baseline,
  ratio,
  aim,
});
export const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? Number.NaN;
export const kb = (bytes: number): string => `${(bytes / 1000).toFixed(2)} kB`;
