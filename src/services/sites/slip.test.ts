import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, invert, isEmpty } from '../../core/change';
import type { Placement } from '../../core/placement/placement';
import { changedPaths } from '../publishing/publish';
import { pageName, placeName } from './names';
import { byId, difference } from './state';
import type { Site } from './site';

const placement = fc.record({
  id: fc.constantFrom('aaaaaaaa', 'bbbbbbbb', 'cccccccc', 'dddddddd'),
  text: fc.constantFrom('one', 'two'),
  order: fc.nat(3),
});
const state = fc.uniqueArray(placement, { selector: (p) => p.id }).map((all) =>
  all.map(
    ({ id, text, order }): Placement => ({
      id,
      order,
      kind: 'buy',
      settings: { goods: 'x', text },
      spelling: 'element',
      pitch: {
        region: 'main',
        path: '',
        side: 'after',
        around: ['', '', '', ''],
        outside: ['', ''],
        heading: '',
        row: '',
        twin: '1/1',
        repeats: 1,
        alike: false,
      },
      pitchLabel: '',
      reach: { to: 'page', page: 'index.html' },
    }),
  ),
);

describe('the difference between two states', () => {
  it('of a state and itself is nothing, whatever the order of keys', () => {
    fc.assert(
      fc.property(state, (a) => {
        const shuffled = a.map(
          (p) => Object.fromEntries(Object.entries(p).reverse()) as unknown as Placement,
        );
        expect(isEmpty(difference(a, shuffled))).toBe(true);
      }),
    );
  });

  it('applied to the first is the second, and backwards is the inverse', () => {
    const sorted = (all: Iterable<Placement>) => [...all].sort((a, b) => a.id.localeCompare(b.id));
    fc.assert(
      fc.property(state, state, (a, b) => {
        const change = difference(a, b);
        expect(sorted(Object.values(apply(byId(a), change)))).toEqual(sorted(b));
        expect(difference(b, a)).toEqual(invert(change));
      }),
    );
  });

  it('of two manifests is the files that a publishing touches', () => {
    expect(changedPaths({ a: '1', b: '2', c: '3' }, { a: '1', b: '9', d: '4' }).sort()).toEqual([
      'b',
      'c',
      'd',
    ]);
  });
});

describe('names of places', () => {
  const site = {
    reading: {
      menu: [
        {
          label: 'Start',
          page: 'index.html',
          href: '',
          current: false,
          children: [{ label: 'Deep', page: 'a/b.html', href: '', current: false, children: [] }],
        },
      ],
      pages: [
        { path: 'index.html', heading: 'Welcome', title: 'T' },
        { path: 'x.html', heading: '', title: 'Only a title' },
      ],
    },
  } as unknown as Site;

  it('are those of the menu, else of the page itself', () => {
    expect(['index.html', 'a/b.html', 'x.html', 'gone.html'].map((p) => pageName(site, p))).toEqual([
      'Start',
      'Deep',
      'Only a title',
      'gone.html',
    ]);
  });

  it('tell how far a placement reaches', () => {
    expect(placeName(site, { reach: { to: 'every', except: [] } })).toBe('Every page');
    expect(placeName(site, { reach: { to: 'every', except: ['x.html'] } })).toBe('Every page but 1');
    expect(placeName(site, { reach: { to: 'pages', pages: ['index.html'] } })).toBe('Start');
    expect(placeName(site, { reach: { to: 'pages', pages: ['index.html', 'x.html'] } })).toBe('2 pages');
    expect(placeName(site, { reach: { to: 'page', page: 'x.html' } })).toBe('Only a title');
  });
});
