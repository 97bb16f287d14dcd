/** Stepping stones: one to a press, each a little turned, the same each time. Our own drawing. */
const TOP =
  'M-7 .4C-7.2 -3.3 -3.1 -4.1 1 -3.9 5.6 -3.5 7.4 -.8 7 1.4 6.3 4 -1.4 4.3 -3.8 3.7 -5.9 3.3 -7 2.4 -7 .4z';
const SHADE = 'M-7 1.6C-7 5.9 -2.8 6.7 .7 6.6 5.6 6.5 7 4.1 7 1.6z';
/** Stones that are drawn; beyond that the figure says it. */
const MOST = 6;
const STEP = 15;

export function Stones({ n, seed, long }: { n: number; seed: string; long: boolean }) {
  const shown = Math.min(n, MOST);
  return (
    <svg
      className={long ? 'ck-stones long' : 'ck-stones'}
      width={shown * STEP + 4}
      height={24}
      aria-hidden="true"
    >
      {Array.from({ length: shown }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: stones are all alike
        <g key={i} transform={`translate(${9 + i * STEP} ${i % 2 ? 14 : 11}) rotate(${turn(seed, i)})`}>
          <path className="sh" d={SHADE} />
          <path className="s" d={TOP} />
        </g>
      ))}
    </svg>
  );
}

/** A few degrees, by what it is drawn for. */
function turn(seed: string, i: number): number {
  let h = i * 31;
  for (const c of seed) h = (h * 33 + c.charCodeAt(0)) % 997;
  return (h % 19) - 9;
}
