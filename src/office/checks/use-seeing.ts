import { useEffect, useRef, useState } from 'react';
import type { ChecksView } from '../../services/checks/checks';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';
import { seePages } from '../ui/see-pages';

/** Looks at the pages that nobody looked at since they are written as they are, while the place is open. */
export function useSeeing(view: ChecksView): { readonly left: number } {
  const { site } = useBoot();
  const [left, setLeft] = useState(0);
  const tried = useRef(new Set<string>());
  const { toSee } = view;
  const key = view.running ? '' : toSee.map((p) => `${p.path} ${p.version}`).join('|');
  const wanted = useRef(toSee);
  wanted.current = toSee;
  useEffect(() => {
    if (key === '') return;
    const stop = new AbortController();
    const work = async () => {
      // A page that could not be looked at is not tried again and again.
      const all = wanted.current.filter((p) => !tried.current.has(`${p.path} ${p.version}`));
      setLeft(all.length);
      let n = 0;
      for await (const seen of seePages(site.draftUrl, all, stop.signal)) {
        tried.current.add(`${seen.path} ${seen.version}`);
        await call(site.slug, 'PUT checks/seen', { body: [seen] });
        setLeft(all.length - ++n);
      }
      setLeft(0);
      if (!stop.signal.aborted) for (const p of all) tried.current.add(`${p.path} ${p.version}`);
      if (n > 0 && !stop.signal.aborted) refresh('checks', 'checks-count');
    };
    void work().catch(() => setLeft(0));
    return () => stop.abort();
  }, [key, site.draftUrl, site.slug]);
  return { left };
}
