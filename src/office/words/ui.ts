import type { Said } from './said';

/** What the office says: ui. */

/** ui/mark.tsx */
export const mark = {
  onTheSlip: 'On the slip',
} as const;

/** ui/when.ts */
export const when = {
  yesterday: (a: Said) => `Yesterday, ${a}`,
} as const;

/** ui/miniature.tsx */
export const miniature = {
  miniature: 'Miniature',
} as const;

/** ui/use-asking.ts, ui/asking-form.tsx */
export const asking = {
  oneMoment: 'One moment',
  atLeast10CharactersFourWords:
    'At least 10 characters; four words that nobody would guess are easy to keep.',
  thatDidNotWork: 'That did not work. Please try again.',
} as const;
