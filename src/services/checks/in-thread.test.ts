import { describe, expect, it } from 'vitest';
import { type Checked, Stopped } from './compute';
import { Checker } from './in-thread';

const checked = (version: string): Checked => ({
  version,
  findings: [],
  ways: [],
  before: null,
  pages: 1,
  took: 1,
  toSee: [],
  versions: {},
});

/** Runs that end when they are told to, each with the state it was begun with. */
function slow() {
  const ends: (() => void)[] = [];
  let state = 'first';
  let ways = 0;
  const checker = new Checker({
    run: (_, onProgress, stop) => {
      const begunWith = state;
      onProgress({ done: 1, all: 2 });
      return new Promise((resolve, reject) => {
        ends.push(() => resolve(checked(begunWith)));
        stop.addEventListener('abort', () => reject(new Stopped()));
      });
    },
    way: async () => {
      ways++;
      return [];
    },
  });
  return { checker, ends, change: (to: string) => (state = to), ways: () => ways };
}

describe('runs of one site', () => {
  it('tell whoever changed something meanwhile of the site with the change', async () => {
    const { checker, ends, change } = slow();
    const before = checker.run('a');
    change('second');
    const after = checker.run('a');
    const third = checker.run('a');
    ends[0]?.();
    expect((await before.done).version).toBe('first');
    await Promise.resolve();
    ends[1]?.();
    expect((await after.done).version).toBe('second');
    expect((await third.done).version).toBe('second');
    expect(ends).toHaveLength(2);
  });

  it('follow one that failed, and are stopped with one that was stopped', async () => {
    const { checker, ends } = slow();
    const one = checker.run('a');
    const two = checker.run('a');
    checker.stop('a');
    await expect(one.done).rejects.toThrow(Stopped);
    await expect(two.done).rejects.toThrow(Stopped);
    expect(ends).toHaveLength(1);
    expect(checker.isStopped('a')).toBe(true);
    let begun = 0;
    const shaky = new Checker({
      run: async () => {
        if (begun++ === 0) throw new Error('the thread for checks ended');
        return checked('whole');
      },
      way: async () => [],
    });
    const broken = shaky.run('a');
    const next = shaky.run('a');
    await expect(broken.done).rejects.toThrow('ended');
    await expect(next.done).resolves.toMatchObject({ version: 'whole' });
  });

  it('are waited for by who asks for a way', async () => {
    const { checker, ends, ways } = slow();
    const way = checker.way('a', 'index.html', 'paid');
    expect(ways()).toBe(0);
    ends[0]?.();
    await way;
    expect(ways()).toBe(1);
  });

  it('other work is told and stopped as they are', async () => {
    const { checker } = slow();
    let go = () => {};
    const look = checker.look('a', async (told) => {
      told({ done: 3, all: 9 });
      await new Promise<void>((resolve) => (go = resolve));
      told({ done: 4, all: 9 });
    });
    expect(checker.looking('a')).toEqual({ done: 3, all: 9 });
    checker.stop('a');
    go();
    await expect(look).rejects.toThrow(Stopped);
    expect(checker.looking('a')).toBeUndefined();
  });
});
