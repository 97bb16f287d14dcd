import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Placement } from '../../core/placement/placement';
import type { Pitch, Side } from '../../core/site/pitch';
import { type Layout, nearest, pitchLines } from './geometry';
import { apply, invert, type Records } from '../../core/change';
import { empty, record, redo, type Step, stepOf, undo } from './history';

const pitch = (anchorAt: number, path: string, side: Side, containerAt = 0): Pitch => ({
  address: {
    region: 'main',
    path,
    side,
    around: ['', '', '', ''],
    outside: ['', ''],
    heading: '',
    row: '',
    twin: '1/1',
    repeats: 1,
    alike: false,
  },
  label: `${side} ${path}`,
  region: 'main',
  offset: anchorAt,
  prefix: '',
  anchorAt,
  containerAt,
});

/** Two sections under each other; in the second, two columns side by side. */
const pitches = [
  pitch(10, 'section:0', 'before'),
  pitch(10, 'section:0', 'after'),
  pitch(20, 'section:1', 'after'),
  pitch(30, 'section:1/div:0', 'before', 20),
  pitch(30, 'section:1/div:0', 'after', 20),
  pitch(40, 'section:1/div:1', 'after', 20),
  pitch(99, 'section:9', 'after'),
];
const layout: Layout = {
  height: 400,
  widgets: [],
  anchors: [
    { n: 10, x: 0, y: 0, w: 1000, h: 200 },
    { n: 20, x: 0, y: 200, w: 1000, h: 200 },
    { n: 30, x: 0, y: 200, w: 480, h: 200 },
    { n: 40, x: 520, y: 200, w: 480, h: 200 },
  ],
};

describe('where pitches lie on the drawn page', () => {
  const lines = pitchLines(pitches, layout);

  it('between blocks that stand under each other they lie across', () => {
    expect(lines.find((l) => l.index === 1)).toMatchObject({ upright: false, x: 0, y: 200, w: 1000, h: 0 });
    expect(lines.find((l) => l.index === 0)).toMatchObject({ upright: false, y: 0 });
  });

  it('between columns they stand upright', () => {
    expect(lines.find((l) => l.index === 3)).toMatchObject({ upright: true, x: 0, y: 200, h: 200 });
    expect(lines.find((l) => l.index === 4)).toMatchObject({ upright: true, x: 480 });
    expect(lines.find((l) => l.index === 5)).toMatchObject({ upright: true, x: 1000 });
  });

  it('the largest blocks show theirs unasked; hidden elements have none', () => {
    expect(lines.filter((l) => l.main).map((l) => l.index)).toEqual([0, 1, 2]);
    expect(lines.some((l) => l.index === 6)).toBe(false);
  });

  it('the nearest to a point is the one that is nearest', () => {
    expect(nearest(lines, 500, 195)?.index).toBe(1);
    expect(nearest(lines, 470, 300)?.index).toBe(4);
    expect(nearest(lines, 500, 5)?.index).toBe(0);
    expect(nearest([], 1, 1)).toBeUndefined();
  });

  it('every point of the page has a nearest pitch, and a point on a line has that line or one that crosses it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 0, max: 400 }), (x, y) => {
        const found = nearest(lines, x, y);
        expect(found).toBeDefined();
        const distance = (l: typeof found) =>
          l ? Math.hypot(Math.max(l.x - x, 0, x - l.x - l.w), Math.max(l.y - y, 0, y - l.y - l.h)) : 0;
        for (const l of lines) expect(distance(found)).toBeLessThanOrEqual(distance(l) + 0.011);
      }),
    );
  });
});

describe('the history of the bench', () => {
  const placement = (id: string, text: string): Placement => ({
    id,
    kind: 'buy',
    settings: { text },
    spelling: 'element',
    pitch: pitches[0]?.address ?? ({} as never),
    pitchLabel: '',
    reach: { to: 'page', page: 'index.html' },
    order: 1,
  });

  it('undoes and redoes in order; a new step forgets what was undone', () => {
    const added = stepOf(undefined, placement('a', '1'));
    const changed = stepOf(placement('a', '1'), placement('a', '2'));
    const h = record(record(empty, added), changed);
    const first = undo(h);
    expect(first?.step).toEqual(invert(changed));
    const second = undo(first?.next ?? empty);
    expect(second?.step).toEqual(stepOf(placement('a', '1'), undefined));
    expect(undo(second?.next ?? empty)).toBeUndefined();
    expect(redo(second?.next ?? empty)?.step).toEqual(added);
    expect(record(first?.next ?? empty, added).undone).toEqual([]);
  });

  const stepTo = (draft: Records<Placement>, id: string, text: string | null): Step =>
    stepOf(draft[id], text === null ? undefined : placement(id, text));

  it('undone as often as done and redone as often, everything is as it was', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.option(fc.string()))), (acts) => {
        let draft: Records<Placement> = {};
        let history = empty;
        for (const [id, text] of acts) {
          const step = stepTo(draft, id, text);
          draft = apply(draft, step);
          history = record(history, step);
        }
        const end = draft;
        for (let back = undo(history); back; back = undo(history)) {
          draft = apply(draft, back.step);
          history = back.next;
        }
        expect(Object.keys(draft)).toEqual([]);
        for (let again = redo(history); again; again = redo(history)) {
          draft = apply(draft, again.step);
          history = again.next;
        }
        expect(Object.entries(draft).sort()).toEqual(Object.entries(end).sort());
      }),
    );
  });
});
