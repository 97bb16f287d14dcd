import { apply, type Change, changeBetween, invert, isEmpty, squash } from '../../core/change';
import type { Decision, LookPlan } from '../../core/look/plan';
import type { TokenName } from '../../core/look/tokens';

export const sampleParts = ['row', 'product', 'cart', 'checkout'] as const;
export const sheets = ['colours', 'shape', 'css'] as const;
export type LookSheet = (typeof sheets)[number];
export type SamplePart = (typeof sampleParts)[number];

/** What the place Look shows and has in hand. */
export interface LookState {
  readonly decisions: LookPlan;
  /** What was done here and can be undone, the last at the end. */
  readonly done: readonly Change<Decision>[];
  readonly undone: readonly Change<Decision>[];
  /** Changes that the server does not have yet, as one. */
  readonly unsent: Change<Decision>;
  /** Earlier ones are on their way: what the server answers is older than what is seen here. */
  readonly isSending: boolean;
  /** The token whose thread is being tied. */
  readonly open: TokenName | null;
  /** The colour (or face) whose threads stand out. */
  readonly chosen: string | null;
  /** What is being worked on. */
  readonly sheet: LookSheet;
  readonly part: SamplePart;
  /** The ground that the sample stands on; '' for the page's own. */
  readonly ground: string;
  readonly night: boolean;
  readonly isLarge: boolean;
}

const none: Change<Decision> = { added: {}, updated: {}, removed: {} };

export const begin = (decisions: LookPlan): LookState => ({
  decisions,
  done: [],
  undone: [],
  unsent: none,
  isSending: false,
  open: null,
  chosen: null,
  sheet: 'colours',
  part: 'row',
  ground: '',
  night: false,
  isLarge: false,
});

export type LookAct =
  | {
      readonly do: 'decide';
      readonly name: string;
      readonly value: Decision | undefined;
      readonly goesOn?: boolean;
    }
  | { readonly do: 'undo' }
  | { readonly do: 'redo' }
  | { readonly do: 'send' }
  | { readonly do: 'sent' }
  | { readonly do: 'refresh'; readonly decisions: LookPlan }
  | { readonly do: 'open'; readonly token: TokenName | null }
  | { readonly do: 'choose'; readonly what: string | null }
  | {
      readonly do: 'show';
      readonly sample: Partial<Pick<LookState, 'sheet' | 'part' | 'ground' | 'night' | 'isLarge'>>;
    };

export function reduce(state: LookState, act: LookAct): LookState {
  switch (act.do) {
    case 'decide':
      return decided(state, act.name, act.value, act.goesOn ?? false);
    case 'undo':
      return back(state);
    case 'redo':
      return forth(state);
    case 'send':
      return { ...state, unsent: none, isSending: true };
    case 'sent':
      return { ...state, isSending: false };
    case 'refresh':
      // What is still on its way is not overwritten by what was there before it.
      return isEmpty(state.unsent) && !state.isSending ? { ...state, decisions: act.decisions } : state;
    case 'open':
      return { ...state, open: act.token };
    case 'choose':
      return { ...state, chosen: act.what };
    case 'show':
      return { ...state, ...act.sample };
  }
}

/** @param goesOn the same hand movement as before: one step of undo */
function decided(state: LookState, name: string, value: Decision | undefined, goesOn: boolean): LookState {
  const { [name]: _, ...others } = state.decisions;
  const decisions: LookPlan = value === undefined ? others : { ...others, [name]: value };
  const step = changeBetween(state.decisions, decisions);
  if (isEmpty(step)) return state;
  const last = goesOn ? state.done.at(-1) : undefined;
  const done = last ? [...state.done.slice(0, -1), squash(last, step)] : [...state.done, step];
  return { ...state, decisions, done, undone: [], unsent: squash(state.unsent, step) };
}

function back(state: LookState): LookState {
  const last = state.done.at(-1);
  return last
    ? { ...stepped(state, invert(last)), done: state.done.slice(0, -1), undone: [...state.undone, last] }
    : state;
}

function forth(state: LookState): LookState {
  const last = state.undone.at(-1);
  return last
    ? { ...stepped(state, last), done: [...state.done, last], undone: state.undone.slice(0, -1) }
    : state;
}

const stepped = (state: LookState, step: Change<Decision>): LookState => ({
  ...state,
  decisions: apply(state.decisions, step),
  unsent: squash(state.unsent, step),
});
