import { useCallback } from 'react';
import { bench as say } from '../words/bench';
import { widths } from './bench-state';
import { PageFrame } from './page-frame';

export const widthNames = [say.phone, say.tablet, say.desktop] as const;

/** The page as a shopper has it, at all widths side by side. */
export function Trio({ src, space }: { src: string; space: number }) {
  const scale = (space - 40) / widths.reduce<number>((n, px) => n + px, 0);
  const nothing = useCallback(() => {}, []);
  return (
    <div className="trio">
      {widths.map((px, i) => (
        <figure key={px}>
          <figcaption>
            {widthNames[i]} <span className="mono">{px}</span>
          </figcaption>
          <PageFrame
            src={src}
            title={say.asAShopper2(widthNames[i] ?? '')}
            width={px}
            scale={scale}
            height={Math.round(560 / scale)}
            onLayout={nothing}
          />
        </figure>
      ))}
    </div>
  );
}
