import { useQuery } from '@tanstack/react-query';
import type { OrderView } from '../../services/till/read-order';
import { call, viewKey } from '../api';
import { useBoot, useMoney, useMay } from '../shop-context';
import { Awning } from '../ui/mark';
import { byPlacement as say } from '../words/orders';

/** Placements told on the order's page; all of them stand with the takings. */
const SHOWN = 6;

/** Where the last thirty days came in, and which of it this order came through. */
export function ByPlacement({ order }: { order: OrderView }) {
  const { site } = useBoot();
  const money = useMoney();
  const may = useMay();
  const { data } = useQuery({
    queryKey: viewKey('takings', ''),
    queryFn: () => call(site.slug, 'GET takings'),
    staleTime: 60_000,
    enabled: may('GET takings'),
  });
  if (!data || data.placements.length === 0) return null;
  const own = new Set(order.lines.flatMap((l) => l.placementId ?? (l.page ? [`page ${l.page}`] : [])));
  const most = data.placements[0]?.amount || 1;
  return (
    <section className="take" aria-label={say.takingsByPlacement}>
      <header>
        <h2>{say.takingsByPlacement}</h2>
        <span>{say.last30Days}</span>
        <p>
          <b className="mono">{money(data.all.total)}</b>
          {say.from(data.all.orders === 1 ? say.n1Order : say.orders(data.all.orders))}
        </p>
      </header>
      <ul>
        {data.placements.slice(0, SHOWN).map((p) => (
          <li key={p.key} className={own.has(p.key) ? 'cur' : ''}>
            <span className="bn">
              <Awning kind="buy" flat />
              <span title={p.name}>{p.name}</span>
            </span>
            <span className="bb">
              <i style={{ width: `${Math.max(2, (p.amount / most) * 28)}%` }} />
              <b className="mono">{money(p.amount)}</b>
              <em>{p.orders === 1 ? say.n1Order : say.orders(p.orders)}</em>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
