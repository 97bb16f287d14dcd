import { useQuery } from '@tanstack/react-query';
import { call, viewKey } from './api';
import { hrefOf } from './places';
import { useBoot } from './shop-context';
import { alarm as say } from './words/frame';

/** What must not be overlooked, above whatever is open: nobody can pay, the shop is only being tried out, letters wait. */
export function Alarm() {
  const { site } = useBoot();
  const { data } = useQuery({
    queryKey: viewKey('status'),
    queryFn: () => call(site.slug, 'GET status'),
    refetchInterval: 60_000,
  });
  if (!data) return null;
  const till = hrefOf(site.slug, 'till');
  return (
    <div className="alarms">
      {data.unpayable && (
        <p className="alarm" role="alert">
          {data.unpayable} <a href={`${till}?pay`}>{say.toTheWaysToPay}</a>
        </p>
      )}
      {data.test && (
        <p className="alarm test">
          {say.tryingOutOrdersAreMarkedNobody} <a href={`${till}?pay`}>{say.sellForReal}</a>
        </p>
      )}
      {data.lookInto > 0 && (
        <p className="alarm look">
          {say.toBeLookedIntoPaidTwice(
            data.lookInto === 1 ? say.anOrderWants : say.ordersWant(data.lookInto),
          )}
          <a href={hrefOf(site.slug, 'orders')}>{say.toTheOrders}</a>
        </p>
      )}
      {data.letters && <p className="alarm">{data.letters}</p>}
    </div>
  );
}
