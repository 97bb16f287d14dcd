export interface RingBox {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** A ring as a pen draws it around something: it starts inside its own end. Our own drawing. */
const PEN = 'M22 7C50 -1 88 4 96 20 103 37 70 48 42 47 16 46 0 36 4 22 8 10 40 1 74 5';
/** The least that a ring is drawn with, and how far it stands off, in px. */
const LEAST = 14;
const OFF = 4;

export function Ring({ box, tone }: { box: RingBox; tone: 'beet' | 'marigold' }) {
  const width = Math.max(LEAST, box.w) + 2 * OFF;
  const height = Math.max(LEAST - 4, box.h) + 2 * OFF;
  return (
    <svg
      className={`ck-ring ${tone}`}
      style={{ left: box.x + box.w / 2 - width / 2, top: box.y + box.h / 2 - height / 2 }}
      width={width}
      height={height}
      viewBox="0 0 100 50"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path vectorEffect="non-scaling-stroke" d={PEN} />
    </svg>
  );
}
