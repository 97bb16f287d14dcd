import { type RefObject, useEffect, useState } from 'react';

/** Width of an element in CSS pixels, followed as it changes; it may come later. */
export function useSpace(ref: RefObject<HTMLElement | null>): number {
  const [space, setSpace] = useState(840);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.target.clientWidth));
    const timer = setInterval(() => {
      if (!ref.current) return;
      watch.observe(ref.current);
      clearInterval(timer);
    }, 50);
    return () => {
      clearInterval(timer);
      watch.disconnect();
    };
  }, [ref]);
  return space;
}
