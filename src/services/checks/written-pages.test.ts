import { describe, expect, it } from 'vitest';
import { overlapping } from './written-pages';

const soon = () => new Promise((done) => setTimeout(done, 1));

describe('work that overlaps', () => {
  it('does all of a queue, two at a time at most', async () => {
    const done: string[] = [];
    let [under, most] = [0, 0];
    await overlapping(['a', 'b', 'c', 'd', 'e'], async (path) => {
      most = Math.max(most, ++under);
      await soon();
      under--;
      done.push(path);
    });
    expect([done.toSorted(), most]).toEqual([['a', 'b', 'c', 'd', 'e'], 2]);
  });

  it('ends when it is stopped: nothing more is begun', async () => {
    const begun: string[] = [];
    const work = overlapping(['a', 'b', 'c', 'd', 'e', 'f'], async (path) => {
      begun.push(path);
      await soon();
      if (path === 'a') throw new Error('stopped');
    });
    await expect(work).rejects.toThrow('stopped');
    const then = begun.length;
    for (let n = 0; n < 8; n++) await soon();
    expect(begun.length - then).toBeLessThanOrEqual(1);
    expect(begun).not.toContain('f');
  });
});
