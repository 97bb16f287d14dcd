/** Letters that a name needs so that one wrong letter still tells which is meant. */
const LONG = 4;

/**
 * The one file of those that is called the same but for its folder, its ending, small and capital letters, one letter that is wrong, missing
 * or too many, or two that changed places; nothing where there are several.
 */
export function nearestName(wanted: string, files: readonly string[]): string | undefined {
  const name = bare(wanted);
  if (!name) return undefined;
  const alike = files.filter((f) => bare(f) === name);
  const near = alike.length || name.length < LONG ? alike : files.filter((f) => isOneApart(bare(f), name));
  return near.length === 1 ? near[0] : undefined;
}

const bare = (path: string): string =>
  path
    .toLowerCase()
    .replace(/\/$/, '')
    .replace(/\/?index\.\w+$/, '')
    .replace(/\.\w+$/, '')
    .split('/')
    .pop() ?? '';

function isOneApart(a: string, b: string): boolean {
  let from = 0;
  while (from < a.length && from < b.length && a[from] === b[from]) from++;
  const [x, y] = [a.slice(from), b.slice(from)];
  const isTurned = x[0] === y[1] && x[1] === y[0] && x.slice(2) === y.slice(2);
  return isTurned || x.slice(1) === y.slice(1) || x.slice(1) === y || x === y.slice(1);
}
