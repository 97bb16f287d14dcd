import { useMemo, useState } from 'react';
import type { ChecksView, FindingView } from '../../services/checks/checks';
import { checks as say } from '../words/checks';
import { FindingRow } from './finding-row';
import { type Group, groupsOf, heavyOf, lightOf, mendsOf, type Order } from './groups';
import { MendAll } from './mend-all';
import { Runs } from './runs';
import { ShowMe } from './show-me';
import { useChecksView, useRun } from './use-checks';
import { useSeeing } from './use-seeing';
import { WaysTable } from './ways-table';

/** What a shopper would stumble over, each with its place and its mend; how far it is to the checkout; and how it was before. */
export function ChecksPlace() {
  const view = useChecksView();
  if (view.error) return <p className="empty bad">{view.error.message}</p>;
  if (!view.data) return <p className="empty note">{say.readingEveryPage}</p>;
  return <Open view={view.data} />;
}

function Open({ view }: { view: ChecksView }) {
  const { run, stop } = useRun();
  const [shown, setShown] = useState<FindingView | null>(null);
  const { left } = useSeeing(view);
  const isRunning = view.running !== null || run.isPending;
  return (
    <div className="checks">
      <section className="ck-finds" aria-label={say.findings}>
        {isRunning && <Running view={view} onStop={() => stop.mutate()} />}
        {view.isStopped && !isRunning && (
          <p className="note">{view.isFirst ? say.notThrough : say.stopped}</p>
        )}
        {!view.isFirst && <Findings view={view} onShow={setShown} />}
      </section>
      <div className="ck-side">
        {shown ? (
          <ShowMe finding={shown} onClose={() => setShown(null)} />
        ) : (
          <>
            <WaysTable rows={view.ways} />
            <Runs view={view} isRunning={isRunning} left={left} onRun={() => run.mutate()} />
          </>
        )}
      </div>
    </div>
  );
}

function Running({ view, onStop }: { view: ChecksView; onStop: () => void }) {
  const { done, all } = view.running ?? { done: 0, all: 0 };
  return (
    <div className="ck-running">
      <p role="status">{all ? say.running(done, all) : say.starting}</p>
      <progress max={all || 1} value={done} aria-label={say.starting} />
      <button type="button" className="btn sm quiet" onClick={onStop}>
        {say.stop}
      </button>
    </div>
  );
}

const orders: readonly (readonly [Order, string])[] = [
  ['weight', say.byWeight],
  ['page', say.byPage],
];

/** Groups that are drawn at first: each has a picture of a page. */
const SHOWN = 12;

function Findings({ view, onShow }: { view: ChecksView; onShow: (f: FindingView) => void }) {
  const [order, setOrder] = useState<Order>('weight');
  const groups = useMemo(() => groupsOf(view.findings, order), [view.findings, order]);
  const heavy = heavyOf(groups);
  const light = lightOf(groups);
  const mends = mendsOf(view.findings);
  return (
    <>
      <header className="ck-head">
        <h1 className="sum">
          {groups.length === 0 ? (
            say.nothingFound
          ) : (
            <>
              <b>{heavy.length}</b>
              {say.toMend}
              <i />
              <b>{light.length}</b>
              {say.canWait}
            </>
          )}
        </h1>
        {mends.length > 1 && <MendAll mends={mends} />}
      </header>
      {groups.length > 1 && (
        <fieldset className="ck-order">
          <legend className="sr-only">{say.order}</legend>
          {orders.map(([o, name]) => (
            <button key={o} type="button" aria-pressed={order === o} onClick={() => setOrder(o)}>
              {name}
            </button>
          ))}
        </fieldset>
      )}
      {groups.length === 0 && <p className="note">{say.nothingFoundHint}</p>}
      <GroupList
        groups={order === 'weight' ? [...heavy, ...light] : groups}
        first={order === 'weight' ? heavy.length : -1}
        onShow={onShow}
      />
      {view.left.length > 0 && (
        <details className="ck-left">
          <summary>{say.leftSo(view.left.length)}</summary>
          <GroupList groups={groupsOf(view.left, 'weight')} first={-1} onShow={onShow} />
        </details>
      )}
    </>
  );
}

/** @param first where what can wait begins: a stronger line stands there */
function GroupList({
  groups,
  first,
  onShow,
}: {
  groups: readonly Group[];
  first: number;
  onShow: (f: FindingView) => void;
}) {
  const [most, setMost] = useState(SHOWN);
  const rest = groups.length - most;
  return (
    <>
      <ol className="ck-list">
        {groups.slice(0, most).map((g, n) => (
          <li key={g.key} className={n === first && n > 0 ? 'wait' : ''}>
            <FindingRow group={g} onShow={onShow} />
          </li>
        ))}
      </ol>
      {rest > 0 && (
        <button type="button" className="btn sm" onClick={() => setMost(most + 40)}>
          {say.showMore(rest)}
        </button>
      )}
    </>
  );
}
