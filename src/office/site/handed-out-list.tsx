import { useMutation, useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { HandedOut } from '../../services/sites/hand-out';
import { call, queries, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { when } from '../ui/when';
import { handedOutList as say } from '../words/site';

/**
 * Code that was pasted into pages we do not write: where, whether it was seen there, and one press that
 * looks at all of it.
 */
export function HandedOutList() {
  const { site } = useBoot();
  const { data } = useQuery({
    queryKey: viewKey('handed-out'),
    queryFn: () => call(site.slug, 'GET arrived'),
  });
  const keep = (all: HandedOut[]) => queries.setQueryData(['handed-out'], all);
  const look = useMutation({
    mutationFn: () => call(site.slug, 'POST arrived/all'),
    onSuccess: keep,
    onError: (e) => toast.error(e.message),
  });
  const forget = useMutation({
    mutationFn: ({ url, placement, kind, spelling }: HandedOut) =>
      call(site.slug, 'DELETE arrived', { body: { url, placement, kind, spelling } }),
    onSuccess: keep,
    onError: (e) => toast.error(e.message),
  });
  if (!data?.length) return null;
  const missing = data.filter((h) => !h.found).length;
  return (
    <section className="handed-out" aria-label={say.pastedElsewhere}>
      <div className="col-h">
        <h2>{say.pastedElsewhere}</h2>
        <span className={missing ? 'bad' : 'note'} role="status">
          {missing ? say.ofNotSeenThere(missing, data.length) : say.allOfItWasSeenThere}
        </span>
        <button type="button" className="btn sm" disabled={look.isPending} onClick={() => look.mutate()}>
          {look.isPending ? say.looking : say.lookAtAllOfThem}
        </button>
      </div>
      <ul>
        {data.map((h) => (
          <li key={`${h.placement} ${h.spelling} ${h.url}`}>
            <span>
              <b>{h.name}</b> <span className="note">{say.asOn(h.spelling)}</span>{' '}
              <span className="mono">{h.url}</span>
            </span>
            <span className={h.found ? 'good' : 'bad'}>{h.message}</span>
            <span className="note mono">{when(h.lookedAt)}</span>
            <button
              type="button"
              className="btn sm quiet"
              aria-label={say.forgetOn(h.name, h.url)}
              onClick={() => forget.mutate(h)}
            >
              {say.forget}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
