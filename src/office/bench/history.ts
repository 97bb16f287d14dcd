import { type Change, changeBetween, invert, recordsOf } from '../../core/change';
import type { Placement } from '../../core/placement/placement';
import { call } from '../api';

/** One step of work on the bench. */
export type Step = Change<Placement>;

/** From one placement to another; nothing stands for none. */
export const stepOf = (before: Placement | undefined, after: Placement | undefined): Step => {
  const named = (p: Placement | undefined) => recordsOf(p ? [[p.id, p] as const] : []);
  return changeBetween(named(before), named(after));
};

export interface History {
  readonly done: readonly Step[];
  readonly undone: readonly Step[];
}

export const empty: History = { done: [], undone: [] };
export const record = (h: History, step: Step): History => ({ done: [...h.done, step], undone: [] });

/** Makes a step once more, or the one that takes it back; what others changed meanwhile stays. */
export const perform = (slug: string, step: Step): Promise<unknown> =>
  call(slug, 'POST placements/change', { body: step });

export const undo = (h: History): { step: Step; next: History } | undefined => {
  const last = h.done.at(-1);
  return last && { step: invert(last), next: { done: h.done.slice(0, -1), undone: [...h.undone, last] } };
};
export const redo = (h: History): { step: Step; next: History } | undefined => {
  const last = h.undone.at(-1);
  return last && { step: last, next: { done: [...h.done, last], undone: h.undone.slice(0, -1) } };
};
