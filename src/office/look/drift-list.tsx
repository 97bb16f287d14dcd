import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { DriftLine } from '../../core/look/drift';
import type { SourceName } from '../../core/look/found/sources';
import { pairLabels, sourceLabels } from '../../core/look/labels';
import { call, queries, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { driftList as say } from '../words/look';

/** What of the site is another by now, with what it does; followed one by one or all at once, or kept. */
export function DriftList({ lines }: { lines: readonly DriftLine[] }) {
  const { site } = useBoot();
  const answer = useMutation({
    mutationFn: (body: { do: 'follow' | 'keep'; sources: readonly SourceName[] | 'all' }) =>
      call(site.slug, 'POST look/drift', { body }),
    onSuccess: (view) => {
      queries.setQueryData(viewKey('look'), view);
      refresh('slip');
    },
    onError: (e) => toast.error(e.message, { duration: 9000 }),
  });
  if (lines.length === 0) return null;
  return (
    <section className="lk-drift" aria-labelledby="drift">
      <h2 id="drift">{say.theSiteLooksDifferent(lines.length)}</h2>
      <p className="note">{say.theShopWearsItAsItWas}</p>
      <ul>
        {lines.map((line) => (
          <li key={line.source}>
            <b>{sourceLabels[line.source]}</b>
            <span className="mono">
              <Value text={line.was} /> → <Value text={line.is} />
            </span>
            <span className="note">{line.pairs.map(pairWords).join('; ')}</span>
            <button
              type="button"
              className="btn small"
              onClick={() => answer.mutate({ do: 'follow', sources: [line.source] })}
            >
              {say.follow}
              <span className="sr-only"> {sourceLabels[line.source]}</span>
            </button>
            <button
              type="button"
              className="btn small"
              onClick={() => answer.mutate({ do: 'keep', sources: [line.source] })}
            >
              {say.keep}
              <span className="sr-only"> {sourceLabels[line.source]}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="acts">
        <button type="button" className="btn" onClick={() => answer.mutate({ do: 'follow', sources: 'all' })}>
          {say.followAll}
        </button>
        <button type="button" className="btn" onClick={() => answer.mutate({ do: 'keep', sources: 'all' })}>
          {say.keepAll}
        </button>
      </p>
    </section>
  );
}

const pairWords = ({ pair, was, is, need }: DriftLine['pairs'][number]): string =>
  say.contrast(pairLabels[pair], was.toFixed(1), is.toFixed(1), is < need ? say.needs(String(need)) : '');

function Value({ text }: { text: string }) {
  if (!text) return <>{say.none}</>;
  if (!text.startsWith('#')) return <>{text.length > 28 ? `${text.slice(0, 27)}…` : text}</>;
  return (
    <span className="chip">
      <i style={{ background: text }} />
      {text.toUpperCase()}
    </span>
  );
}
