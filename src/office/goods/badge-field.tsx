import { useMemo } from 'react';
import { useBoot } from '../shop-context';
import { moreFields as say } from '../words/goods';
import { TextField } from './fields';
import type { Draft } from './form';
import type { SetField } from './use-draft';
import { useSiteFont } from './use-site-font';

/** The badge of a card, measured in the site's own font: whether it fits the narrowest. */
export function BadgeField({ draft, set }: { draft: Draft; set: SetField }) {
  const { font, own } = useSiteFont();
  const { badgeRoom } = useBoot().site;
  const width = useMemo(() => {
    const pen = document.createElement('canvas').getContext('2d');
    if (!pen) return 0;
    pen.font = `700 14.4px ${font}`;
    return pen.measureText(draft.badge).width;
  }, [draft.badge, font]);
  const fits = width <= badgeRoom;
  return (
    <div>
      <TextField
        label={say.badge}
        value={draft.badge}
        most={24}
        placeholder={say.noneAnOfferShowsItsPer}
        onChange={(v) => set('badge', v)}
      />
      {draft.badge && (
        <p className={fits ? 'note' : 'field-error'}>
          {fits
            ? say.needsOfPxInFitsThe(Math.ceil(width), Math.floor(badgeRoom), own || say.aUsualFont)
            : say.needsPxInAndTheNarrowest(Math.ceil(width), own || say.aUsualFont, Math.floor(badgeRoom))}
        </p>
      )}
    </div>
  );
}
