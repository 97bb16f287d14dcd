import { onGoods, openGoods, type Rule } from '../../rule';

/** Two products that are told apart by a number in their address alone. */
export const twins: Rule = {
  name: 'twins',
  about: 'Two products of one name: their addresses differ by a number alone.',
  weight: 'untidy',
  reads: ['goods'],
  *find(s) {
    const first = new Map<string, string>();
    for (const p of s.goods.shown) {
      const name = p.name.trim().toLowerCase();
      const other = first.get(name);
      if (other === undefined) {
        first.set(name, p.slug);
        continue;
      }
      yield {
        about: p.id,
        place: onGoods(p),
        title: `Another product is called “${p.name}”, too`,
        meets: `In lists and in the cart nobody can tell /${other} from /${p.slug}.`,
        mends: [
          openGoods(p, 'Give it a name of its own.', 'Rename it'),
          { do: 'goods', label: 'Hide it', id: p.id, set: { shows: 'hidden' } },
        ],
      };
    }
  },
};
