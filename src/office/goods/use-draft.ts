import { useCallback, useReducer } from 'react';
import type { Draft } from './form';

export interface State {
  readonly now: Draft;
  readonly past: readonly Draft[];
  readonly future: readonly Draft[];
  /** What was changed last, and when: typing on in one field is one step. */
  readonly key: string;
  readonly at: number;
}

export type Act =
  | { readonly do: 'set'; readonly key: string; readonly change: (d: Draft) => Draft; readonly at: number }
  | { readonly do: 'undo' }
  | { readonly do: 'redo' }
  | { readonly do: 'start'; readonly draft: Draft };

/** Pause after which typing on counts as a new step, in milliseconds; steps that are kept. Chosen by hand. */
const STEP_MS = 900;
const STEPS = 200;

/** One step of a sheet's life; pure, so that undo can be proven. */
export function step(s: State, a: Act): State {
  if (a.do === 'start') return { now: a.draft, past: [], future: [], key: '', at: 0 };
  if (a.do === 'undo') {
    const back = s.past.at(-1);
    return back ? { now: back, past: s.past.slice(0, -1), future: [s.now, ...s.future], key: '', at: 0 } : s;
  }
  if (a.do === 'redo') {
    const [next, ...rest] = s.future;
    return next ? { now: next, past: [...s.past, s.now], future: rest, key: '', at: 0 } : s;
  }
  const now = a.change(s.now);
  if (now === s.now) return s;
  const same = a.key === s.key && a.at - s.at < STEP_MS;
  return { now, past: same ? s.past : [...s.past, s.now].slice(-STEPS), future: [], key: a.key, at: a.at };
}

/** A sheet as it is being written, with its own undo and redo. */
export function useDraft(start: () => Draft) {
  const [state, act] = useReducer(step, undefined, () => ({
    now: start(),
    past: [],
    future: [],
    key: '',
    at: 0,
  }));
  const change = useCallback(
    (key: string, to: (d: Draft) => Draft) => act({ do: 'set', key, change: to, at: Date.now() }),
    [],
  );
  const set = useCallback(
    <K extends keyof Draft>(field: K, value: Draft[K]) =>
      act({ do: 'set', key: field, change: (d) => ({ ...d, [field]: value }), at: Date.now() }),
    [],
  );
  const undo = useCallback(() => act({ do: 'undo' }), []);
  const redo = useCallback(() => act({ do: 'redo' }), []);
  const restart = useCallback((draft: Draft) => act({ do: 'start', draft }), []);
  return { draft: state.now, change, set, undo, redo, restart, canUndo: state.past.length > 0 };
}
export type Change = ReturnType<typeof useDraft>['change'];
export type SetField = ReturnType<typeof useDraft>['set'];
