/** A count as strokes of a pen, every fifth across the four before. Our own drawing. */
const MOST = 15;
const GAP = 4.6;

export function Tally({ n, good = false }: { n: number; good?: boolean }) {
  const shown = Math.min(n, MOST);
  return (
    <svg
      className={good ? 'ck-tally good' : 'ck-tally'}
      width={shown * GAP + 8}
      height={15}
      aria-hidden="true"
    >
      {Array.from({ length: shown }, (_, i) => {
        const x = 2 + i * GAP + Math.floor(i / 5) * 1.5;
        const across = i % 5 === 4;
        // biome-ignore lint/suspicious/noArrayIndexKey: strokes are all alike
        return (
          <path
            key={i}
            d={across ? `M${x - 4 * GAP - 1.4} 11.5 ${x - 0.4} 3.5` : `M${x} 2l${i % 2 ? '-.4' : '.3'} 11`}
          />
        );
      })}
    </svg>
  );
}
