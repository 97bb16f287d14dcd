import { useMutation, useQuery } from '@tanstack/react-query';
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { type KeyboardEvent, useState } from 'react';
import { toast } from 'sonner';
import type { CategoryLine } from '../../services/goods/category-tree';
import { call, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { GoodsWays, type GoodsView } from './ways';
import { categoriesView as say } from '../words/goods';

type Act =
  | { readonly do: 'add'; readonly parent: string | null; readonly name: string }
  | { readonly do: 'rename'; readonly id: string; readonly name: string }
  | {
      readonly do: 'move';
      readonly id: string;
      readonly parent: string | null;
      readonly before: string | null;
    }
  | { readonly do: 'remove'; readonly id: string };

/** Where a category goes with one step of an arrow; nothing where there is no such place. Pure, so that it can be proven. */
export function stepOf(
  lines: readonly CategoryLine[],
  id: string,
  way: 'up' | 'down' | 'in' | 'out',
): Extract<Act, { do: 'move' }> | undefined {
  const one = lines.find((l) => l.id === id);
  if (!one) return undefined;
  const beside = lines.filter((l) => l.parent === one.parent);
  const at = beside.indexOf(one);
  const above = beside[at - 1];
  if (way === 'up') return above && { do: 'move', id, parent: one.parent, before: above.id };
  if (way === 'down')
    return beside[at + 1] && { do: 'move', id, parent: one.parent, before: beside[at + 2]?.id ?? null };
  if (way === 'in') return above && { do: 'move', id, parent: above.id, before: null };
  const parent = lines.find((l) => l.id === one.parent);
  if (!parent) return undefined;
  const uncles = lines.filter((l) => l.parent === parent.parent);
  return { do: 'move', id, parent: parent.parent, before: uncles[uncles.indexOf(parent) + 1]?.id ?? null };
}

/** The ways into the catalogue: named, ordered and nested here; live at once, each act a line on the slip. */
export function CategoriesView({ onGo }: { onGo: (to: GoodsView) => void }) {
  const { site } = useBoot();
  const { data, error } = useQuery({
    queryKey: viewKey('categories'),
    queryFn: () => call(site.slug, 'GET categories'),
  });
  const [fresh, setFresh] = useState('');
  const act = useMutation({
    mutationFn: (a: Act) => call(site.slug, 'POST categories', { body: a }),
    onSuccess: () => refresh('categories', 'goods', 'slip'),
    onError: (e) => {
      toast.error(e.message);
      refresh('categories');
    },
  });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.fetchingTheCategories}</p>;
  return (
    <div className="gtable">
      <div className="gtable-h">
        <h1>{say.categories}</h1>
        <span className="mono">{data.length}</span>
        <span className="note">{say.shoppersSeeThoseThatHoldSomething}</span>
        <GoodsWays at="categories" onGo={onGo} />
      </div>
      <div className="gtable-scroll">
        {data.length === 0 && <p className="empty note">{say.noneYetMakeOneHereOr}</p>}
        <ul className="gtree">
          {data.map((c) => (
            <Line key={c.id} line={c} lines={data} busy={act.isPending} onAct={act.mutate} />
          ))}
        </ul>
        <form
          className="gtree-add"
          onSubmit={(e) => {
            e.preventDefault();
            if (fresh.trim())
              act.mutate({ do: 'add', parent: null, name: fresh }, { onSuccess: () => setFresh('') });
          }}
        >
          <label className="lab" htmlFor="g-cat">
            {say.aNewCategory}
          </label>
          <div className="flex gap-2">
            <input
              id="g-cat"
              className="in"
              value={fresh}
              maxLength={60}
              onChange={(e) => setFresh(e.target.value)}
            />
            <button type="submit" className="btn" disabled={!fresh.trim() || act.isPending}>
              <Plus size={13} aria-hidden />
              {say.add}
            </button>
          </div>
        </form>
      </div>
    </div>
  );
}

const arrows = { ArrowUp: 'up', ArrowDown: 'down', ArrowRight: 'in', ArrowLeft: 'out' } as const;

function Line({
  line,
  lines,
  busy,
  onAct,
}: {
  line: CategoryLine;
  lines: readonly CategoryLine[];
  busy: boolean;
  onAct: (a: Act) => void;
}) {
  const [name, setName] = useState<string | null>(null);
  const keep = () => {
    if (name?.trim() && name.trim() !== line.name) onAct({ do: 'rename', id: line.id, name });
    setName(null);
  };
  const keys = (e: KeyboardEvent) => {
    const way = e.altKey ? arrows[e.key as keyof typeof arrows] : undefined;
    const step = way && stepOf(lines, line.id, way);
    if (way) e.preventDefault();
    if (step) onAct(step);
    else if (e.key === 'Enter') keep();
    else if (e.key === 'Escape') setName(null);
  };
  const move = (way: 'up' | 'down' | 'in' | 'out', says: string, Icon: typeof ArrowUp) => {
    const step = stepOf(lines, line.id, way);
    return (
      <button
        type="button"
        aria-label={`${says}: ${line.name}`}
        title={says}
        disabled={busy || !step}
        onClick={() => step && onAct(step)}
      >
        <Icon size={13} />
      </button>
    );
  };
  return (
    <li style={{ paddingLeft: `${20 + line.depth * 26}px` }}>
      <input
        className="cell plain"
        aria-label={say.nameOf(line.path)}
        value={name ?? line.name}
        maxLength={60}
        onChange={(e) => setName(e.target.value)}
        onBlur={keep}
        onKeyDown={keys}
        title={say.altAndAnArrowMovesIt}
      />
      <span className="note mono">{line.count}</span>
      <span className="note mono gtree-slug">{line.slug}</span>
      <span className="gtree-acts">
        {move('up', say.earlier, ArrowUp)}
        {move('down', say.later, ArrowDown)}
        {move('in', say.intoTheOneAbove, ArrowRight)}
        {move('out', say.outOfTheOneItIs, ArrowLeft)}
        <button
          type="button"
          className="bad"
          aria-label={say.removeItsProductsStay(line.name)}
          title={say.removeItsProductsStay2}
          disabled={busy}
          onClick={() => onAct({ do: 'remove', id: line.id })}
        >
          <Trash2 size={13} />
        </button>
      </span>
    </li>
  );
}
