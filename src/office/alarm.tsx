import { useQuery } from '@tanstack/react-query';
import type { Standing } from '../services/till/standing';
import { call } from './api';
import { hrefOf } from './places';
import { useBoot } from './shop-context';

/** What must not be overlooked, above whatever is open: nobody can pay, the shop is only being tried out, letters wait. */
export function Alarm() {
  const { site } = useBoot();
  const { data } = useQuery({
    queryKey: ['standing'],
    queryFn: () => call<Standing>(`/api/${site.slug}/standing`),
    refetchInterval: 60_000,
  });
  if (!data) return null;
  const till = hrefOf(site.slug, 'till');
  return (
    <div className="alarms">
      {data.unpayable && (
        <p className="alarm" role="alert">
          {data.unpayable} <a href={`${till}?pay`}>To the ways to pay</a>
        </p>
      )}
      {data.test && (
        <p className="alarm test">
          Trying out: orders are marked, nobody is charged, and shoppers are told so.{' '}
          <a href={`${till}?pay`}>Sell for real</a>
        </p>
      )}
      {data.lookInto > 0 && (
        <p className="alarm look">
          {data.lookInto === 1 ? 'An order wants' : `${data.lookInto} orders want`} to be looked into: paid
          twice, or paid after its pieces had gone. <a href={hrefOf(site.slug, 'orders')}>To the orders</a>
        </p>
      )}
      {data.letters && <p className="alarm">{data.letters}</p>}
    </div>
  );
}
