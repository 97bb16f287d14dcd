import type { Placement } from '../../core/placement/placement';
import { call } from '../api';

/** One step of work on the bench, told forwards and backwards; `before` and `after` are whole placements or nothing. */
export interface Step {
  readonly before: Placement | undefined;
  readonly after: Placement | undefined;
}

export interface History {
  readonly done: readonly Step[];
  readonly undone: readonly Step[];
}

export const empty: History = { done: [], undone: [] };
export const record = (h: History, step: Step): History => ({ done: [...h.done, step], undone: [] });
export const invert = (s: Step): Step => ({ before: s.after, after: s.before });

/** Makes the draft hold what the step ends with. */
export async function perform(slug: string, { before, after }: Step): Promise<void> {
  const id = (after ?? before)?.id ?? '';
  if (after) await call(slug, 'PUT placements/:id', { id, body: after });
  else await call(slug, 'DELETE placements/:id', { id });
}

export const undo = (h: History): { step: Step; next: History } | undefined => {
  const last = h.done.at(-1);
  return last && { step: invert(last), next: { done: h.done.slice(0, -1), undone: [...h.undone, last] } };
};
export const redo = (h: History): { step: Step; next: History } | undefined => {
  const last = h.undone.at(-1);
  return last && { step: last, next: { done: [...h.done, last], undone: h.undone.slice(0, -1) } };
};
