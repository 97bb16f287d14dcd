import { namesOf } from '../../core/entries';
import { useQuery } from '@tanstack/react-query';
import { call, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { ways as say } from '../words/goods';

export type GoodsView = 'one' | 'table' | 'categories' | 'reviews';
const names: Readonly<Record<GoodsView, string>> = {
  one: say.oneByOne,
  table: say.table,
  categories: say.categories,
  reviews: say.reviews,
};

export const useReviews = () => {
  const { site } = useBoot();
  return useQuery({ queryKey: viewKey('reviews'), queryFn: () => call(site.slug, 'GET reviews') });
};

/** The ways of looking at goods; the one that is open is not among them. */
export function GoodsWays({ at, onGo }: { at: GoodsView; onGo: (to: GoodsView) => void }) {
  const waiting = useReviews().data?.filter((r) => r.state === 'waiting').length ?? 0;
  return (
    <nav className="gways" aria-label={say.waysOfLookingAtGoods}>
      {namesOf(names)
        .filter((v) => v !== at)
        .map((v) => (
          <button key={v} type="button" onClick={() => onGo(v)}>
            {names[v]}
            {v === 'reviews' && waiting > 0 && (
              <b className="mono" title={say.toRead(waiting)}>
                {waiting}
              </b>
            )}
          </button>
        ))}
    </nav>
  );
}
