import { useQuery } from '@tanstack/react-query';
import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { minorDigits } from '../../core/money/currency';
import type { TakingsBy } from '../../core/till/takings';
import type { TakingsView } from '../../services/till/takings';
import { address } from '../../contract/address';
import { call, filledIn, viewKey } from '../api';
import { useBoot, useMoney } from '../shop-context';
import { takings as say } from '../words/orders';

const parts: readonly (readonly [TakingsBy, string])[] = [
  ['products', say.byProduct],
  ['categories', say.byCategory],
  ['pages', say.byPage],
  ['placements', say.byPlacement],
];
const spans = [
  [7, '7 days'],
  [30, '30 days'],
  [90, '90 days'],
  [365, say.aYear],
] as const;

const daysAgo = (n: number): string => new Date(Date.now() - n * 86_400_000).toISOString().slice(0, 10);
const short = (iso: string): string =>
  new Date(`${iso}T12:00:00Z`).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  });

/** What came in: by day, and by what it came through. The table beside the chart says the same to those who do not see it. */
export default function TakingsPage({ onBack }: { onBack: () => void }) {
  const { site } = useBoot();
  const [span, setSpan] = useState<Span>({ from: '', to: '' });
  const query = filledIn(span);
  const { data, error } = useQuery({
    queryKey: viewKey('takings', query),
    queryFn: () => call(site.slug, 'GET takings', { query }),
    placeholderData: (before) => before,
  });
  return (
    <div className="tpage">
      <header>
        <button type="button" className="btn quiet" onClick={onBack}>
          <ArrowLeft size={14} aria-hidden />
          {say.orders}
        </button>
        <h1>{say.takings}</h1>
        <SpanFields span={span} data={data} onSpan={setSpan} />
      </header>
      {error && <p className="bad">{error.message}</p>}
      {data && (
        <>
          <InAll all={data.all} />
          <section aria-label={say.byDay}>
            <div className="th">
              <h2>{say.byDay}</h2>
              <a
                className="btn sm"
                href={address(site.slug, 'GET takings/csv', { query: { ...query, by: 'days' } })}
                download
              >
                {say.csv}
              </a>
            </div>
            <DayChart days={data.days} />
            <DayTable days={data.days} />
          </section>
          <div className="tgrid">
            {parts.map(([by, title]) => (
              <Shares key={by} title={title} of={data} by={by} query={query} />
            ))}
          </div>
        </>
      )}
    </div>
  );
}

interface Span {
  readonly from: string;
  readonly to: string;
}
type Days = TakingsView['days'];

function SpanFields({
  span,
  data,
  onSpan: setSpan,
}: {
  span: Span;
  data: TakingsView | undefined;
  onSpan: (span: Span) => void;
}) {
  return (
    <div className="tspan">
      {spans.map(([n, name]) => (
        <button
          key={n}
          type="button"
          className="btn sm"
          aria-pressed={span.from === daysAgo(n - 1) || (n === 30 && !span.from)}
          onClick={() => setSpan({ from: daysAgo(n - 1), to: '' })}
        >
          {name}
        </button>
      ))}
      <label className="lab">
        {say.from}
        <input
          className="in"
          type="date"
          value={span.from || (data?.from ?? '')}
          onChange={(e) => setSpan({ ...span, from: e.target.value })}
        />
      </label>
      <label className="lab">
        {say.to}
        <input
          className="in"
          type="date"
          value={span.to || (data?.to ?? '')}
          onChange={(e) => setSpan({ ...span, to: e.target.value })}
        />
      </label>
    </div>
  );
}

function InAll({ all }: { all: TakingsView['all'] }) {
  const money = useMoney();
  return (
    <dl className="tksum">
      {(
        [
          [say.inAll, all.total],
          [say.goods, all.goods],
          [say.shipping, all.shipping],
          [say.taxWithin, all.tax],
          [say.givenBack, all.refunded],
        ] as const
      ).map(([name, amount]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd className="mono">{money(amount)}</dd>
        </div>
      ))}
      <div>
        <dt>{say.orders}</dt>
        <dd className="mono">{all.orders}</dd>
      </div>
      <div>
        <dt>{say.pieces}</dt>
        <dd className="mono">{all.pieces}</dd>
      </div>
    </dl>
  );
}

function DayChart({ days }: { days: Days }) {
  const { site } = useBoot();
  const money = useMoney();
  const unit = 10 ** minorDigits(site.currency);
  return (
    <div className="tchart" aria-hidden="true">
      <ResponsiveContainer width="100%" height={210}>
        <BarChart
          accessibilityLayer={false}
          data={days.map((d) => ({ ...d, name: short(d.day), amount: d.total / unit }))}
          margin={{ top: 8, right: 8, bottom: 0, left: 0 }}
        >
          <CartesianGrid vertical={false} stroke="var(--color-line)" />
          <XAxis dataKey="name" tickLine={false} stroke="var(--color-ink-3)" fontSize={11} minTickGap={24} />
          <YAxis
            width={64}
            tickLine={false}
            axisLine={false}
            stroke="var(--color-ink-3)"
            fontSize={11}
            tickFormatter={(v: number) => money(Math.round(v * unit)).replace(/[.,]00$/, '')}
          />
          <Tooltip
            cursor={{ fill: 'var(--color-linen)' }}
            formatter={(v) => [money(Math.round(Number(v) * unit)), say.cameIn]}
            contentStyle={{
              background: 'var(--color-receipt)',
              border: '1px solid var(--color-line-2)',
              borderRadius: 3,
              fontSize: 12,
            }}
          />
          <Bar dataKey="amount" fill="var(--color-leaf)" isAnimationActive={false} maxBarSize={28} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}

function DayTable({ days }: { days: Days }) {
  const money = useMoney();
  return (
    <details className="tdaylist">
      <summary className="note">{say.theSameAsATable}</summary>
      <table>
        <thead>
          <tr>
            <th scope="col">{say.day}</th>
            <th scope="col">{say.orders}</th>
            <th scope="col">{say.goods}</th>
            <th scope="col">{say.shipping}</th>
            <th scope="col">{say.givenBack}</th>
            <th scope="col">{say.inAll}</th>
          </tr>
        </thead>
        <tbody>
          {days
            .filter((d) => d.orders > 0 || d.refunded > 0)
            .map((d) => (
              <tr key={d.day}>
                <th scope="row">{short(d.day)}</th>
                <td>{d.orders}</td>
                <td>{money(d.goods)}</td>
                <td>{money(d.shipping)}</td>
                <td>{money(d.refunded)}</td>
                <td>{money(d.total)}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </details>
  );
}

/** Rows shown of each; the table that is fetched has all of them. */
const SHOWN = 8;

function Shares({
  title,
  of,
  by,
  query,
}: {
  title: string;
  of: TakingsView;
  by: TakingsBy;
  query: { from?: string; to?: string };
}) {
  const { site } = useBoot();
  const money = useMoney();
  const rows = of[by];
  const most = rows[0]?.amount || 1;
  return (
    <section className="take" aria-label={title}>
      <div className="th">
        <h2>{title}</h2>
        <a
          className="btn sm"
          href={address(site.slug, 'GET takings/csv', { query: { ...query, by } })}
          download
        >
          {say.csv}
        </a>
      </div>
      {rows.length === 0 && <p className="note">{say.nothingCameIn}</p>}
      <ul>
        {rows.slice(0, SHOWN).map((p) => (
          <li key={p.key}>
            <span className="bn">
              <span title={p.name}>{p.name}</span>
            </span>
            <span className="bb">
              <i style={{ width: `${Math.max(2, (p.amount / most) * 48)}%` }} />
              <b className="mono">{money(p.amount)}</b>
              <em>{p.orders === 1 ? say.n1Order : say.orders2(p.orders)}</em>
            </span>
          </li>
        ))}
      </ul>
      {rows.length > SHOWN && <p className="note">{say.moreStandInTheCsv(rows.length - SHOWN)}</p>}
    </section>
  );
}
