import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { WayRow } from '../../services/checks/checks';
import { call, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { waysTable as say } from '../words/checks';
import { Stones } from './stones';

const goals = ['product', 'cart', 'paid'] as const;
type Goal = (typeof goals)[number];
const heads: Readonly<Record<Goal, string>> = { product: say.aProduct, cart: say.theCart, paid: say.paid };

/** Rows that are shown at first: the worst ones. */
const SHOWN = 14;
const FAR = 99;

/** The worst first: no way, then the longest to paid, to the cart, to a product. */
function worstFirst(a: WayRow, b: WayRow): number {
  const n = (x: number | undefined) => x ?? FAR;
  return n(b.paid) - n(a.paid) || n(b.cart) - n(a.cart) || n(b.product) - n(a.product);
}

/** How many presses it takes from every page to a product, to the cart, and to paid. */
export function WaysTable({ rows }: { rows: readonly WayRow[] }) {
  const [all, setAll] = useState(false);
  const [open, setOpen] = useState<{ path: string; goal: Goal } | null>(null);
  const sorted = useMemo(() => [...rows].sort(worstFirst), [rows]);
  const shown = all ? sorted : sorted.slice(0, SHOWN);
  if (rows.length === 0) return null;
  return (
    <section className="ck-ways" aria-labelledby="ck-ways-title">
      <header>
        <h2 id="ck-ways-title">{say.title}</h2>
        <p>{say.oneStone}</p>
      </header>
      <table>
        <thead>
          <tr>
            <th scope="col">{say.from}</th>
            {goals.map((g) => (
              <th key={g} scope="col">
                {heads[g]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <Row
              key={row.path}
              row={row}
              open={open?.path === row.path ? open.goal : null}
              onOpen={(goal) => setOpen(goal && { path: row.path, goal })}
            />
          ))}
        </tbody>
      </table>
      {sorted.length > SHOWN && (
        <button type="button" className="btn quiet sm" onClick={() => setAll(!all)}>
          {all ? say.fewer : say.all(sorted.length)}
        </button>
      )}
      <Summary rows={rows} />
    </section>
  );
}

function Row({ row, open, onOpen }: { row: WayRow; open: Goal | null; onOpen: (goal: Goal | null) => void }) {
  return (
    <>
      <tr className={row.built ? 'built' : ''}>
        <th scope="row">{row.name}</th>
        {goals.map((goal) => (
          <Cell
            key={goal}
            row={row}
            goal={goal}
            open={open === goal}
            onPress={() => onOpen(open === goal ? null : goal)}
          />
        ))}
      </tr>
      {open && (
        <tr className="steps">
          <td colSpan={4}>
            <Steps page={row.path} goal={open} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Presses that are long for what they lead to; chosen by hand. */
const LONG: Readonly<Record<Goal, number>> = { product: 3, cart: 2, paid: 6 };

function Cell({ row, goal, open, onPress }: { row: WayRow; goal: Goal; open: boolean; onPress: () => void }) {
  const n = row[goal];
  const was = row.was?.[goal];
  if (n === 0) return <td className="here">{say.here}</td>;
  if (n === undefined) return <td className="none">{say.noWay}</td>;
  const changed = row.was !== null && was !== n;
  return (
    <td>
      <button
        type="button"
        aria-expanded={open}
        aria-label={`${say.showTheWay(row.name, heads[goal])} (${say.presses(n)})`}
        onClick={onPress}
      >
        <Stones n={n} seed={`${row.path} ${goal}`} long={n >= LONG[goal]} />
        <b className={n >= LONG[goal] ? 'long' : ''}>{n}</b>
        {changed && <del title={say.was(was ?? say.noWay)}>{was ?? '–'}</del>}
      </button>
    </td>
  );
}

/** Each press of one way, with where it leads. */
function Steps({ page, goal }: { page: string; goal: Goal }) {
  const { site } = useBoot();
  const { data } = useQuery({
    queryKey: viewKey('checks-way', page, goal),
    queryFn: () => call(site.slug, 'GET checks/way', { query: { page, goal } }),
  });
  return (
    <ol>
      {data?.map((s, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps are told in their order, and never change in place
        <li key={n}>
          <b>{s.press}</b> <span>{s.to}</span>
        </li>
      ))}
    </ol>
  );
}

function Summary({ rows }: { rows: readonly WayRow[] }) {
  const none = rows.filter((r) => r.paid === undefined).length;
  const longest = [...rows].sort(worstFirst).find((r) => r.paid !== undefined);
  const longer = rows.find((r) => r.was?.paid !== undefined && r.paid !== undefined && r.paid > r.was.paid);
  if (longer?.was?.paid !== undefined && longer.paid !== undefined)
    return <p className="ck-note">{say.oneLonger(longer.name, longer.paid, longer.was.paid)}</p>;
  if (none > 0) return <p className="ck-note">{say.noWayFrom(none)}</p>;
  return <p className="ck-note ok">{say.everyPage(longest?.paid ?? 0)}</p>;
}
