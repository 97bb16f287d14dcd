import { go, list, onGoods, type Rule } from '../../rule';

/** Pictures of several shapes side by side, where the shop shows them as they are. */
export const shapesMixed: Rule = {
  name: 'shapes-mixed',
  about: 'First pictures of different shapes, shown as they are: cards of one row have different heights.',
  weight: 'untidy',
  reads: ['goods', 'look'],
  *find(s) {
    const shapes = s.goods.shown.flatMap((p) => {
      const size = s.goods.pictures.get(p.pictures[0]?.hash ?? '');
      return size && size.height > 0 ? [{ p, ratio: size.width / size.height }] : [];
    });
    if (shapes.length < 3 || s.look.picture !== 'own') return;
    const sorted = shapes.map((x) => x.ratio).sort((a, b) => a - b);
    const usual = sorted[Math.floor(sorted.length / 2)] ?? 1;
    const odd = shapes.filter((x) => Math.abs(Math.log(x.ratio / usual)) > Math.log(1.2));
    const [first] = odd;
    if (!first) return;
    yield {
      about: 'shapes',
      place: onGoods(first.p),
      title: `${odd.length} of ${shapes.length} pictures have another shape than the rest`,
      meets: `In a row the cards stand at different heights: ${list(odd.map((x) => x.p.name))}.`,
      facts: odd.map((x) => x.p.id),
      mends: [
        go(
          'One shape for all',
          'look',
          { sheet: 'shape' },
          'Choose one shape of pictures; they are filled round their point.',
        ),
      ],
    };
  },
};
