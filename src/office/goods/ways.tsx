import { useQuery } from '@tanstack/react-query';
import type { ReviewLine } from '../../services/goods/reviews';
import { call } from '../api';
import { useBoot } from '../shop-context';

export type GoodsView = 'one' | 'table' | 'categories' | 'reviews';
const names: Readonly<Record<GoodsView, string>> = {
  one: 'One by one',
  table: 'Table',
  categories: 'Categories',
  reviews: 'Reviews',
};

export const useReviews = () => {
  const { site } = useBoot();
  return useQuery({ queryKey: ['reviews'], queryFn: () => call<ReviewLine[]>(`/api/${site.slug}/reviews`) });
};

/** The ways of looking at goods; the one that is open is not among them. */
export function GoodsWays({ at, onGo }: { at: GoodsView; onGo: (to: GoodsView) => void }) {
  const waiting = useReviews().data?.filter((r) => r.state === 'waiting').length ?? 0;
  return (
    <nav className="gways" aria-label="Ways of looking at goods">
      {(Object.keys(names) as GoodsView[])
        .filter((v) => v !== at)
        .map((v) => (
          <button key={v} type="button" onClick={() => onGo(v)}>
            {names[v]}
            {v === 'reviews' && waiting > 0 && (
              <b className="mono" title={`${waiting} to read`}>
                {waiting}
              </b>
            )}
          </button>
        ))}
    </nav>
  );
}
