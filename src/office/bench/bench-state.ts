import { empty, type History, record, type Step } from './history';

/** How the page is looked at: worked on, as a shopper, or at three widths side by side. */
export type Way = 'work' | 'shopper' | 'trio';

/** Widths a page is drawn at, in CSS pixels; three devices that are common. */
export const widths = [390, 820, 1280] as const;

/** What is chosen on the bench, what is being done, and what can be taken back. */
export interface BenchState {
  /** Place in `widths`. */
  readonly width: number;
  readonly way: Way;
  /** Place in the list of pitches. */
  readonly pitch: number | null;
  readonly widget: string | null;
  /** A kind from the shelf, or "move:" and a placement, while it is dragged. */
  readonly lifted: string | null;
  /** The chosen widget is to go elsewhere: the next pitch is where. */
  readonly moving: boolean;
  readonly history: History;
  /** Steps that are on their way to the server. */
  readonly running: number;
}

export const startState: BenchState = {
  width: 2,
  way: 'work',
  pitch: null,
  widget: null,
  lifted: null,
  moving: false,
  history: empty,
  running: 0,
};

export type BenchAct =
  | { readonly do: 'width'; readonly width: number }
  | { readonly do: 'way'; readonly way: Way }
  | { readonly do: 'pitch'; readonly pitch: number | null }
  | { readonly do: 'widget'; readonly widget: string | null }
  | { readonly do: 'lift'; readonly lifted: string | null }
  | { readonly do: 'move'; readonly moving: boolean }
  | { readonly do: 'leave' }
  | { readonly do: 'begin' }
  | { readonly do: 'end'; readonly step?: Step | undefined; readonly history?: History | undefined };

/** One step on the bench; pure. */
export function benchStep(s: BenchState, a: BenchAct): BenchState {
  switch (a.do) {
    case 'width':
      return { ...s, width: a.width, way: s.way === 'trio' ? 'work' : s.way };
    case 'way':
      return { ...s, way: s.way === a.way ? 'work' : a.way };
    case 'pitch':
      // While a widget is being moved it stays the chosen one.
      return { ...s, pitch: a.pitch, widget: s.moving ? s.widget : null };
    case 'widget':
      return { ...s, widget: a.widget, pitch: null, moving: false };
    case 'lift':
      return { ...s, lifted: a.lifted };
    case 'move':
      return { ...s, moving: a.moving };
    case 'leave':
      return { ...s, pitch: null, moving: false, widget: s.moving ? s.widget : null };
    case 'begin':
      return { ...s, running: s.running + 1 };
    case 'end':
      return {
        ...s,
        running: s.running - 1,
        history: a.step ? record(s.history, a.step) : (a.history ?? s.history),
      };
  }
}

/** The next pitch down the page, or up it; round at the ends. @param order places in the list, from top to bottom. */
export function nextPitch(order: readonly number[], now: number | null, by: 1 | -1): number | null {
  if (order.length === 0) return null;
  const before = by > 0 ? -1 : 0;
  const at = now === null ? before : order.indexOf(now);
  return order[(at + by + order.length) % order.length] ?? null;
}
