import { useEffect, useRef } from 'react';

/**
 * Does what has to be done before a view goes: when it is taken down, and when the page is left for another, which takes nothing
 * down. What is sent from here has to outlive the page (`keepalive`, as `call` does it).
 */
export function useParting(leave: () => void): void {
  const last = useRef(leave);
  useEffect(() => {
    last.current = leave;
  });
  useEffect(() => {
    const go = () => last.current();
    addEventListener('pagehide', go);
    return () => {
      removeEventListener('pagehide', go);
      go();
    };
  }, []);
}
