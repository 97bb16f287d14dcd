/** The weight of what counts as the same: by a key, with one of each kept. */
export class Weights<T> {
  readonly #by = new Map<string, { readonly one: T; weight: number }>();

  add(key: string, one: T, weight: number): void {
    const known = this.#by.get(key);
    if (known) known.weight += weight;
    else this.#by.set(key, { one, weight });
  }

  /** The heaviest first. */
  ranked(): { readonly one: T; readonly weight: number }[] {
    return [...this.#by.values()].sort((a, b) => b.weight - a.weight);
  }

  get heaviest(): T | undefined {
    return this.ranked()[0]?.one;
  }

  get total(): number {
    return [...this.#by.values()].reduce((sum, { weight }) => sum + weight, 0);
  }
}

/** The value that half of the weight lies below. */
export function median(values: readonly (readonly [value: number, weight: number])[]): number | undefined {
  const sorted = [...values].sort((a, b) => a[0] - b[0]);
  const half = sorted.reduce((sum, [, w]) => sum + w, 0) / 2;
  let sum = 0;
  for (const [value, weight] of sorted) {
    sum += weight;
    if (sum >= half) return value;
  }
  return undefined;
}
