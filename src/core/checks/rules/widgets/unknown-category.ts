import { onPage, openBench, type Rule } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';

/** A row or a shop front of a category that is not there, or holds nothing. */
export const unknownCategory: Rule = {
  name: 'unknown-category',
  about: 'A row or shop front of a category that does not exist, or that holds nothing.',
  weight: 'away',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [page, w] of widgetsOnce(s)) {
      const { category, source } = w.settings ?? {};
      if (typeof category !== 'string' || !category || (w.kind === 'row' && source !== 'category')) continue;
      const path = s.goods.pathNow(category);
      const found = s.goods.categories.find((c) => c.path === path);
      if (found && found.count > 0) continue;
      const own = s.placements.get(w.placement);
      yield {
        about: widgetKey(page, w),
        place: onPage(page, w),
        title: found ? `The category “${category}” is empty` : `There is no category “${category}”`,
        meets: 'They read that there is nothing here.',
        mends: [
          ...(own
            ? [
                {
                  do: 'settings' as const,
                  label: 'Show all goods',
                  placement: own.id,
                  settings: { ...own.settings, category: '', ...(w.kind === 'row' && { source: 'all' }) },
                },
              ]
            : []),
          openBench(page.path, 'Choose the widget and give it another category.'),
        ],
      };
    }
  },
};
