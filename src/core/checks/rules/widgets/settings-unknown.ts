import { checkSettings } from '../../../placement/placement';
import { openBench, type Rule } from '../../rule';
import { placeOfPlacement } from '../../place-of-placement';

/** Settings of a placement that this version does not know any more. */
export const settingsUnknown: Rule = {
  name: 'settings-unknown',
  about:
    'A placement whose settings do not fit its widget any more: it is left out when the page is written.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    for (const p of s.placements.values()) {
      const read = checkSettings(p.kind, p.settings);
      if (read.ok) continue;
      const place = placeOfPlacement(s, p);
      yield {
        about: p.id,
        place,
        title: 'A widget is left out: its settings do not fit',
        meets: 'Where it should stand there is nothing.',
        facts: read.error,
        mends: [
          ...(place.on === 'page'
            ? [openBench(place.page, `${read.error} Choose it and set it again.`)]
            : []),
          { do: 'take-away', label: 'Take it away', placement: p.id },
        ],
      };
    }
  },
};
