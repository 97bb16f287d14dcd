import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type BenchAct, type BenchState, benchStep, nextPitch, startState, widths } from './bench-state';

const place = fc.option(fc.nat(9));
const id = fc.option(fc.constantFrom('a', 'b'));
const act: fc.Arbitrary<BenchAct> = fc.oneof(
  fc.record({ do: fc.constant('width' as const), width: fc.nat(widths.length - 1) }),
  fc.record({
    do: fc.constant('way' as const),
    way: fc.constantFrom('work' as const, 'shopper' as const, 'trio' as const),
  }),
  fc.record({ do: fc.constant('pitch' as const), pitch: place }),
  fc.record({ do: fc.constant('widget' as const), widget: id }),
  fc.record({ do: fc.constant('move' as const), moving: fc.boolean() }),
  fc.constant({ do: 'leave' as const }),
);
const stateAfter = (acts: readonly BenchAct[]): BenchState => acts.reduce(benchStep, startState);

describe('the bench', () => {
  it('is left in two steps at most, whatever was chosen: first the moving, then the widget', () => {
    fc.assert(
      fc.property(fc.array(act), (acts) => {
        const left = stateAfter([...acts, { do: 'leave' }, { do: 'leave' }]);
        expect(left).toMatchObject({ pitch: null, widget: null, moving: false });
      }),
    );
  });

  it('keeps the widget that is being moved while pitches are walked, and only then', () => {
    const chosen: BenchAct = { do: 'widget', widget: 'a' };
    expect(stateAfter([chosen, { do: 'move', moving: true }, { do: 'pitch', pitch: 3 }]).widget).toBe('a');
    expect(stateAfter([chosen, { do: 'pitch', pitch: 3 }]).widget).toBeNull();
  });

  it('shows each way at the first press and the work at the second', () => {
    fc.assert(
      fc.property(fc.array(act), fc.constantFrom('shopper' as const, 'trio' as const), (acts, way) => {
        const before = stateAfter([...acts, { do: 'way', way: 'work' }]);
        const once = benchStep({ ...before, way: 'work' }, { do: 'way', way });
        expect(once.way).toBe(way);
        expect(benchStep(once, { do: 'way', way }).way).toBe('work');
      }),
    );
  });
});

describe('walking pitches', () => {
  it('comes round to where it began, over each of them once, in both directions', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(50), { minLength: 1 }),
        fc.constantFrom(1 as const, -1 as const),
        (order, by) => {
          const walked: (number | null)[] = [];
          let at = nextPitch(order, null, by);
          expect(at).toBe(by > 0 ? order[0] : order.at(-1));
          for (let n = 0; n < order.length; n++) {
            walked.push(at);
            at = nextPitch(order, at, by);
          }
          expect([...walked].sort()).toEqual([...order].sort());
          expect(at).toBe(walked[0]);
        },
      ),
    );
  });
  it('stays nowhere where there are none', () => expect(nextPitch([], null, 1)).toBeNull());
});
