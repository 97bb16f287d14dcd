import { address } from '../../contract/address';
import { useBoot, useMay } from '../shop-context';
import { orderList as say } from '../words/orders';
import { anyOrder, type OrderListState } from './use-order-list';

const states = [
  ['', say.allOrders],
  ['open', say.stillOpen],
  ['paid', say.paid],
  ['placed', say.moneyNotInYet],
  ['refunded', say.withMoneyGivenBack],
  ['cancelled', say.cancelled],
  ['unpaid', say.neverPaid],
] as const;

/** Looking for orders, narrowing them, taking them along as CSV, and the slips of all that are to be packed. */
export function OrderFilter({ list }: { list: OrderListState }) {
  const { site } = useBoot();
  const { asked, put } = list;
  const may = useMay();
  const toPack = list.data?.shelves.find((s) => s.shelf === 'to-pack')?.count ?? 0;
  return (
    <div className="ofind">
      <div className="in">
        <input
          type="search"
          aria-label={say.findAnOrder}
          placeholder={say.numberNameProduct}
          value={asked.find}
          onChange={(e) => put({ find: e.target.value })}
        />
      </div>
      <Narrow list={list} />
      {(list.data?.tests ?? 0) > 0 && <TestOrders list={list} />}
      {toPack > 0 && may('GET papers/slips') && (
        <p>
          <a
            className="btn sm"
            href={address(site.slug, 'GET papers/slips', { query: { ...list.query, shelf: 'to-pack' } })}
            target="_blank"
            rel="noopener"
          >
            {say.packingSlipsOf(toPack)}
          </a>
        </p>
      )}
    </div>
  );
}

function Narrow({ list: { asked, put, query, isNarrowed } }: { list: OrderListState }) {
  const { site } = useBoot();
  const may = useMay();
  return (
    <details>
      <summary className="note">
        {asked.state || asked.from || asked.to ? say.narrowed : say.narrowOrTakeAlong}
      </summary>
      <select
        className="in"
        aria-label={say.whichOrders}
        value={asked.state}
        onChange={(e) => put({ state: e.target.value })}
      >
        {states.map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </select>
      <div className="g-2">
        <label className="lab">
          {say.from}
          <input
            className="in"
            type="date"
            value={asked.from}
            onChange={(e) => put({ from: e.target.value })}
          />
        </label>
        <label className="lab">
          {say.to}
          <input className="in" type="date" value={asked.to} onChange={(e) => put({ to: e.target.value })} />
        </label>
      </div>
      <p>
        {may('GET orders/csv') && (
          <a className="btn sm" href={address(site.slug, 'GET orders/csv', { query })} download>
            {say.theseAsCsv}
          </a>
        )}
        {isNarrowed && (
          <button type="button" className="btn sm quiet" onClick={() => put(anyOrder)}>
            {say.showAllOrders}
          </button>
        )}
      </p>
    </details>
  );
}

function TestOrders({ list: { asked, put, data, forgetTests } }: { list: OrderListState }) {
  const may = useMay();
  if (!asked.test)
    return (
      <p className="note">
        <button type="button" className="lnk" onClick={() => put({ test: '1' })}>
          {data?.tests === 1 ? say.oneTestOrder : say.testOrders(data?.tests)}
        </button>
      </p>
    );
  return (
    <p className="note">
      <button type="button" className="lnk" onClick={() => put({ test: '' })}>
        {say.backToRealOrders}
      </button>{' '}
      {may('DELETE orders') && (
        <button
          type="button"
          className="lnk beet"
          disabled={forgetTests.isPending}
          onClick={() => forgetTests.mutate()}
        >
          {say.throwTheTestOrdersAway}
        </button>
      )}
    </p>
  );
}
