import { useInfiniteQuery } from '@tanstack/react-query';
import type { AccountAnswer } from '../../contract/account';
import type { Wire } from '../../contract/endpoints';
import { ask, viewKey } from '../api';
import { clock, day } from '../ui/when';
import { deedsView as say, deedWords } from '../words/account';

type Line = Wire<AccountAnswer<'GET deeds'>>['lines'][number];

/** Who did what in the office, the latest first. */
export function Deeds() {
  const deeds = useInfiniteQuery({
    queryKey: viewKey('deeds'),
    queryFn: ({ pageParam }) =>
      ask('GET deeds', { query: pageParam === undefined ? {} : { before: String(pageParam) } }),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: ({ lines, more }) => (more ? lines.at(-1)?.id : undefined),
  });
  if (deeds.error) return <p className="empty bad">{deeds.error.message}</p>;
  if (!deeds.data) return <p className="empty note">{say.fetching}</p>;
  const lines = deeds.data.pages.flatMap((p) => p.lines);
  return (
    <section className="acct-part wide" aria-labelledby="deeds-h">
      <h1 id="deeds-h">{say.whoDidWhat}</h1>
      {lines.length === 0 && <p className="note">{say.nothingYet}</p>}
      <ol className="acct-deeds">
        {lines.map((line, n) => (
          <DeedRow
            key={line.id}
            line={line}
            heads={dayOf(line) !== (lines[n - 1] && dayOf(lines[n - 1] as Line))}
          />
        ))}
      </ol>
      {deeds.hasNextPage && (
        <button
          type="button"
          className="btn"
          disabled={deeds.isFetchingNextPage}
          onClick={() => void deeds.fetchNextPage()}
        >
          {say.more}
        </button>
      )}
    </section>
  );
}

const dayOf = (line: Line): string => day(line.at);

function DeedRow({ line, heads }: { line: Line; heads: boolean }) {
  return (
    <li>
      {heads && <h2 className="acct-day">{dayOf(line)}</h2>}
      <span className="mono">{clock(line.at)}</span>
      <p>
        <b>{line.name || say.nobody}</b> {deedWords[line.what] ?? line.what}{' '}
        {line.subject && <b>{line.subject}</b>}
        {line.site && <span className="note"> {line.site}</span>}
      </p>
    </li>
  );
}
