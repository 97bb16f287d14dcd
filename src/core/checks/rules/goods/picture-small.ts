import { onGoods, openGoods, type Rule } from '../../rule';

/** Pixels that a picture of a product page needs on a screen of two to one; half of it is seen as blurred. Chosen by hand. */
const LEAST = 500;

export const pictureSmall: Rule = {
  name: 'picture-small',
  about: 'A picture that has fewer pixels than the place it is shown in.',
  weight: 'untidy',
  reads: ['goods'],
  *find(s) {
    for (const p of s.goods.shown) {
      const size = s.goods.pictures.get(p.pictures[0]?.hash ?? '');
      if (!size || Math.max(size.width, size.height) >= LEAST) continue;
      yield {
        about: p.id,
        place: onGoods(p),
        title: `Its picture is ${size.width} by ${size.height} pixels`,
        meets: `On its own page it is drawn larger than it is, and looks blurred; it needs ${LEAST} on its longer side.`,
        mends: [openGoods(p, 'Give it a larger picture.', 'Replace the picture')],
      };
    }
  },
};
