import { onPage, openBench, type Rule } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';

/** A frame on a page without the script keeps the height it was written with. */
export const frameCut: Rule = {
  name: 'frame-cut',
  about:
    'A frame that cannot grow, because the page has not the script: what does not fit is cut off or scrolls in itself.',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    for (const [page, w] of widgetsOnce(s)) {
      if (w.spelling !== 'frame') continue;
      if (page.scripts.length > 0) continue;
      yield {
        about: widgetKey(page, w),
        place: onPage(page, w),
        title: 'The frame cannot grow with what is in it',
        meets: 'The page scrolls, and the shop inside scrolls as well.',
        mends: [
          openBench(
            page.path,
            'Write the widget as an element, or put the script on the page: then the frame grows.',
          ),
        ],
      };
    }
  },
};
