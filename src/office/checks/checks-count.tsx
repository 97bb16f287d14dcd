import { useQuery } from '@tanstack/react-query';
import { call, viewKey } from '../api';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { checksCount as say } from '../words/checks';

/** How often an answer that was still being worked out is asked for again, in milliseconds. */
const AGAIN_MS = 2_000;

function useCount() {
  const { site } = useBoot();
  return useQuery({
    queryKey: viewKey('checks-count'),
    queryFn: () => call(site.slug, 'GET checks/count'),
    refetchInterval: (q) => (q.state.data?.running ? AGAIN_MS : false),
  }).data;
}

/** What is to be mended, beside the name of the place. */
export function ChecksCount() {
  const count = useCount();
  if (!count?.toMend) return null;
  return (
    <sup>
      {count.toMend}
      <span className="sr-only">{say.toMend(count.toMend)}</span>
    </sup>
  );
}

/** The same on the slip, before Publish: nothing blocks, but what loses the sale is said. */
export function ChecksLine() {
  const { site } = useBoot();
  const count = useCount();
  if (!count) return null;
  const { toMend, losesSale, running, isKnown } = count;
  const nothing = isKnown ? say.allWell : say.notChecked;
  const open = losesSale > 0 ? say.losesTheSale(losesSale) : say.toMendShort(toMend);
  return (
    <p className="slip-t">
      <span>{say.onTheSlip}</span>
      {toMend > 0 ? (
        <a className={losesSale > 0 ? 'bad' : 'ck-warn'} href={hrefOf(site.slug, 'checks')}>
          {open}
        </a>
      ) : (
        <span>{running ? say.checking : nothing}</span>
      )}
    </p>
  );
}
