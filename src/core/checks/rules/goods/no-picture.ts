import { onGoods, openGoods, type Rule } from '../../rule';

export const noPicture: Rule = {
  name: 'no-picture',
  about: 'A product without a picture in a shop whose others have one.',
  many: 'products without a picture',
  weight: 'away',
  reads: ['goods'],
  *find(s) {
    const with_ = s.goods.shown.filter((p) => p.pictures.length > 0).length;
    for (const p of s.goods.shown)
      if (p.pictures.length === 0)
        yield {
          about: p.id,
          place: onGoods(p),
          title: 'No picture',
          meets:
            with_ > 0 ? 'Beside the others its card is a grey field.' : 'They buy what they have not seen.',
          weight: with_ > 0 ? 'away' : 'untidy',
          mends: [openGoods(p, 'Drop a picture on the sheet.', 'Add a picture')],
        };
  },
};
