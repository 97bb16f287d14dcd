import { chosenOf } from './fields';
import { messageOf } from '../../core/result';
import { toast } from 'sonner';
import type { Visibility } from '../../core/goods/choices';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { GoodsLine } from '../../services/goods/lines';
import { call, queries, refresh } from '../api';
import { pictureOf, useBoot } from '../shop-context';
import { goodsTable as say } from '../words/goods';
import { Cell } from './cell';
import { visibilityOptions } from './choices';
import type { Patch } from './form';
import { isOut, piecesOf } from './use-goods';

interface RowProps {
  readonly n: number;
  readonly product: GoodsLine;
  readonly ticked: boolean;
  readonly onTick: (on: boolean) => void;
  readonly onOpen: () => void;
}

/** One product of the table; what is written in its cells is live at once. */
export function GoodsRow({ n, product: p, ticked, onTick, onOpen }: RowProps) {
  const { site } = useBoot();
  const picture = pictureOf(site.shopUrl, p.picture);
  const write = useWriteLine(p);
  return (
    <tr className={ticked ? 'ticked' : ''}>
      <td>
        <input
          type="checkbox"
          aria-label={say.tick(p.name)}
          checked={ticked}
          onChange={(e) => onTick(e.target.checked)}
        />
      </td>
      <td className="pic">
        {picture ? (
          <img className="thumb" src={picture} alt="" loading="lazy" />
        ) : (
          <span className="thumb" aria-hidden="true">
            –
          </span>
        )}
      </td>
      <th scope="row">
        <button type="button" onClick={onOpen}>
          {p.name}
        </button>
        {p.sample && <b className="sample">{say.sample}</b>}
      </th>
      <td className="n">
        <Cell
          n={n}
          column="price"
          label={say.priceOf(p.name)}
          value={decimalText(p.price, site.currency)}
          onSave={write.price}
        />
      </td>
      <td className="n">
        <Cell
          n={n}
          column="was"
          label={say.priceBeforeOf(p.name)}
          value={p.was === null ? '' : decimalText(p.was, site.currency)}
          placeholder={say.none}
          onSave={write.was}
        />
      </td>
      <td className="n">
        <Stock n={n} product={p} onOpen={onOpen} onSave={write.stock} />
      </td>
      <td className="cats">{p.categories.join(', ')}</td>
      <td>
        <select
          aria-label={say.whoSees(p.name)}
          value={p.shows}
          onChange={(e) =>
            void write.shows(
              chosenOf(
                visibilityOptions.map(([v]) => v),
                e.target.value,
              ) ?? p.shows,
            )
          }
        >
          {visibilityOptions.map(([v, words]) => (
            <option key={v} value={v}>
              {words}
            </option>
          ))}
        </select>
      </td>
    </tr>
  );
}

function Stock({
  n,
  product: p,
  onOpen,
  onSave,
}: Pick<RowProps, 'n' | 'product' | 'onOpen'> & { onSave: (text: string) => string | undefined }) {
  const [only, ...more] = p.variants;
  if (!only || more.length > 0 || p.kind === 'bundle' || p.kind === 'link')
    return (
      <button type="button" className="many" onClick={onOpen}>
        {stockOfMany(p, piecesOf(p))}
      </button>
    );
  return (
    <Cell
      n={n}
      column="stock"
      label={say.stockOf(p.name)}
      value={only.stock === null ? '' : String(only.stock)}
      placeholder={say.any}
      className={isOut(p) ? 'out' : ''}
      onSave={onSave}
    />
  );
}

function stockOfMany(p: GoodsLine, pieces: number | null): string {
  if (p.kind === 'bundle') return say.byItsParts;
  return p.kind === 'link' ? '\u2014' : say.in(pieces ?? 'any', p.variants.length);
}

/** What the cells of a line write, each with what is wrong with a text. */
function useWriteLine(p: GoodsLine) {
  const { site } = useBoot();
  /** The line is right at once; when the server refuses, all lines are asked for again. */
  const now = (change: Partial<GoodsLine>) =>
    queries.setQueryData<GoodsLine[]>(['goods'], (lines) =>
      lines?.map((l) => (l.id === p.id ? { ...l, ...change } : l)),
    );
  const save = async (fields: Patch['fields'], counts: Patch['counts'] = []): Promise<void> => {
    try {
      await call(site.slug, 'PUT goods/:id', { id: p.id, body: { fields, counts } });
      refresh('slip', 'bench');
    } catch (error) {
      toast.error(`${p.name}: ${messageOf(error)}`, { duration: 9000 });
      refresh('goods');
    }
  };
  const put = (fields: Partial<Pick<GoodsLine, 'price' | 'was'>>): undefined => {
    now(fields);
    void save(fields);
  };
  const money = (text: string, done: (v: Minor) => void): string | undefined => {
    const read = parseMoney(text, site.currency);
    if (!read.ok) return read.error;
    if (read.value < 0) return say.aPriceIsNotBelowNought;
    done(read.value);
    return undefined;
  };
  return {
    price: (text: string) => money(text, (price) => put({ price })),
    was: (text: string) => (text.trim() === '' ? put({ was: null }) : money(text, (was) => put({ was }))),
    stock(text: string): string | undefined {
      const [only] = p.variants;
      const to = text.trim() === '' ? null : Number(text);
      if (to !== null && (!Number.isInteger(to) || to < 0)) return say.enterAWholeNumberOrLeave;
      if (!only) return undefined;
      now({ variants: [{ ...only, stock: to }] });
      void save({}, [{ variantId: only.id, from: only.stock, to }]);
      return undefined;
    },
    async shows(shows: Visibility): Promise<void> {
      now({ shows });
      await save({ shows });
      // A bundle that holds it is told about it too.
      refresh('goods');
    },
  };
}
