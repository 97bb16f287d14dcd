import fc from 'fast-check';
import { expect, it } from 'vitest';
import { draftOf } from './form';
import { type State, step } from './use-draft';

const start: State = { now: draftOf(undefined, 'GBP'), past: [], future: [], key: '', at: 0 };
const write = (s: State, name: string, at: number, key = 'name'): State =>
  step(s, { do: 'set', key, at, change: (d) => ({ ...d, name }) });

it('all that was written can be undone to the beginning, and done again to the end', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          name: fc.string(),
          pause: fc.nat(2000),
          key: fc.constantFrom('name', 'cell 1', 'cell 2'),
        }),
      ),
      (writes) => {
        let at = 1;
        let s = start;
        for (const w of writes) s = write(s, w.name, (at += w.pause), w.key);
        const end = s;
        let steps = 0;
        for (; s.past.length; steps++) s = step(s, { do: 'undo' });
        expect(s.now).toEqual(start.now);
        for (let n = 0; n < steps; n++) s = step(s, { do: 'redo' });
        expect(s.now).toEqual(end.now);
        expect(step(s, { do: 'redo' })).toBe(s);
      },
    ),
  );
});

it('typing on in one field is one step; a pause, or another field, begins a new one', () => {
  const typed = write(write(write(start, 'T', 1000), 'Tr', 1200), 'Tru', 1400);
  expect(typed.past).toHaveLength(1);
  expect(write(typed, 'Trug', 9000).past).toHaveLength(2);
  expect(write(typed, 'Trug', 1500, 'slug').past).toHaveLength(2);
  // What changes nothing is no step, and writing after an undo forgets what was undone.
  expect(step(typed, { do: 'set', key: 'x', at: 1, change: (d) => d })).toBe(typed);
  expect(write(step(typed, { do: 'undo' }), 'New', 9999).future).toEqual([]);
});
