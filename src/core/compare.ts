/** Orders ids and codes by their code units: the same everywhere, whatever language anybody speaks. */
export function compareCodes(a: string, b: string): number {
  if (a === b) return 0;
  return a < b ? -1 : 1;
}
