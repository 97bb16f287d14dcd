import { type RefObject, useLayoutEffect, useState } from 'react';

/** A thread from something found to a token that takes it. */
export interface Thread {
  readonly from: string;
  readonly to: string;
  /** Its own colour, or none for faces and shapes. */
  readonly colour: string;
  readonly isBad: boolean;
  readonly isChosen: boolean;
}

interface Drawn extends Thread {
  readonly path: string;
}

interface Props {
  readonly threads: readonly Thread[];
  /** What holds both lists; threads are drawn over it. */
  readonly holder: RefObject<HTMLDivElement | null>;
}

/** The threads as they hang between the two lists. They say nothing that the lists do not say in words. */
export function Threads({ threads, holder }: Props) {
  const [drawn, setDrawn] = useState<readonly Drawn[]>([]);
  useLayoutEffect(() => {
    const box = holder.current;
    if (!box) return;
    const draw = () => setDrawn(threads.flatMap((t) => hang(box, t)));
    draw();
    const watch = new ResizeObserver(draw);
    watch.observe(box);
    for (const list of box.children) watch.observe(list);
    return () => watch.disconnect();
  }, [threads, holder]);
  return (
    <svg className="threads" aria-hidden="true">
      {drawn.map((t) => (
        <g key={`${t.from} ${t.to}`} className={`${t.isChosen ? 'chosen' : ''} ${t.isBad ? 'bad' : ''}`}>
          <path className="edge" d={t.path} />
          <path className="yarn" d={t.path} style={t.isBad || !t.colour ? undefined : { stroke: t.colour }} />
        </g>
      ))}
    </svg>
  );
}

function hang(box: HTMLElement, thread: Thread): Drawn[] {
  const [from, to] = [
    box.querySelector(`[data-found="${CSS.escape(thread.from)}"] .knot`),
    box.querySelector(`[data-token="${CSS.escape(thread.to)}"] .knot`),
  ];
  if (!from || !to) return [];
  const origin = box.getBoundingClientRect();
  const middle = (el: Element) => {
    const r = el.getBoundingClientRect();
    return [r.left + r.width / 2 - origin.left, r.top + r.height / 2 - origin.top + box.scrollTop] as const;
  };
  const [[x1, y1], [x2, y2]] = [middle(from), middle(to)];
  const slack = (x2 - x1) * 0.55;
  return [{ ...thread, path: `M${x1} ${y1}C${x1 + slack} ${y1} ${x2 - slack} ${y2} ${x2} ${y2}` }];
}
