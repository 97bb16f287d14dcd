/** A count as strokes of a pen, every fifth across the four before. Our own drawing. */
const MOST = 15;
const GAP = 4.6;

/** One stroke as a path. */
function stroke(n: number): string {
  const x = 2 + n * GAP + Math.floor(n / 5) * 1.5;
  if (n % 5 === 4) return `M${x - 4 * GAP - 1.4} 11.5 ${x - 0.4} 3.5`;
  return `M${x} 2l${n % 2 ? '-.4' : '.3'} 11`;
}

export function Tally({ n, good = false }: { n: number; good?: boolean }) {
  const strokes = Array.from({ length: Math.min(n, MOST) }, (_, i) => stroke(i));
  return (
    <svg
      className={good ? 'ck-tally good' : 'ck-tally'}
      width={strokes.length * GAP + 8}
      height={15}
      aria-hidden="true"
    >
      {strokes.map((d) => (
        <path key={d} d={d} />
      ))}
    </svg>
  );
}
