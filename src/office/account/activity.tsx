import { useInfiniteQuery } from '@tanstack/react-query';
import type { AccountAnswer } from '../../contract/account';
import type { Wire } from '../../contract/endpoints';
import { ask, viewKey } from '../api';
import { clock, day } from '../ui/when';
import { activityView as say, activityWords } from '../words/account';

type Line = Wire<AccountAnswer<'GET activity'>>['lines'][number];

/** Who did what in the office, the latest first. */
export function Activity() {
  const activity = useInfiniteQuery({
    queryKey: viewKey('activity'),
    queryFn: ({ pageParam }) =>
      ask('GET activity', { query: pageParam === undefined ? {} : { before: String(pageParam) } }),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: ({ lines, more }) => (more ? lines.at(-1)?.id : undefined),
  });
  if (activity.error) return <p className="empty bad">{activity.error.message}</p>;
  if (!activity.data) return <p className="empty note">{say.fetching}</p>;
  const lines = activity.data.pages.flatMap((p) => p.lines);
  return (
    <section className="acct-part wide" aria-labelledby="activity-h">
      <h1 id="activity-h">{say.whoDidWhat}</h1>
      {lines.length === 0 && <p className="note">{say.nothingYet}</p>}
      <ol className="acct-activity">
        {lines.map((line, n) => (
          <ActivityRow
            key={line.id}
            line={line}
            heads={dayOf(line) !== (lines[n - 1] && dayOf(lines[n - 1] as Line))}
          />
        ))}
      </ol>
      {activity.hasNextPage && (
        <button
          type="button"
          className="btn"
          disabled={activity.isFetchingNextPage}
          onClick={() => void activity.fetchNextPage()}
        >
          {say.more}
        </button>
      )}
    </section>
  );
}

const dayOf = (line: Line): string => day(line.at);

function ActivityRow({ line, heads }: { line: Line; heads: boolean }) {
  return (
    <li>
      {heads && <h2 className="acct-day">{dayOf(line)}</h2>}
      <span className="mono">{clock(line.at)}</span>
      <p>
        <b>{line.name || say.nobody}</b> {activityWords[line.what] ?? line.what}{' '}
        {line.subject && <b>{line.subject}</b>}
        {line.site && <span className="note"> {line.site}</span>}
      </p>
    </li>
  );
}
