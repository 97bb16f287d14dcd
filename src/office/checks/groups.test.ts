import { describe, expect, it } from 'vitest';
import type { FindingView } from '../../services/checks/checks';
import { groupsOf, heavyOf, lightOf, mendLabel, mendsOf } from './groups';

const finding = (key: string, more: Partial<FindingView> = {}): FindingView => ({
  key,
  rule: 'way-to-cart',
  about: key,
  state: 's',
  weight: 'sale',
  place: { on: 'page', page: `${key}.html`, name: key },
  title: 'No way to the cart',
  meets: 'They look for it.',
  mends: [{ do: 'cart', label: 'Put the cart there', pages: [key] }],
  isNew: false,
  back: 0,
  since: '2026-11-27T00:00:00.000Z',
  left: null,
  ...more,
});
const untidy = { rule: 'dead-link', weight: 'untidy' as const, many: 'links that lead nowhere', mends: [] };

describe('findings in groups', () => {
  it('say once what is the same of several pages, the heaviest first', () => {
    const groups = groupsOf(
      [finding('z', { ...untidy, title: '“a” leads nowhere' }), finding('a'), finding('b')],
      'weight',
    );
    expect(groups.map((g) => [g.title, g.findings.length])).toEqual([
      ['No way to the cart', 2],
      ['“a” leads nowhere', 1],
    ]);
    expect([heavyOf(groups).length, lightOf(groups).length]).toEqual([1, 1]);
  });

  it('count those of a rule that say different things', () => {
    const [group] = groupsOf(
      [finding('a', { ...untidy, title: '“a”' }), finding('b', { ...untidy, title: '“b”' })],
      'weight',
    );
    expect(group?.title).toBe('2 links that lead nowhere');
  });

  it('are told one by one by page', () => {
    expect(groupsOf([finding('b'), finding('a')], 'page').map((g) => g.findings[0]?.key)).toEqual(['a', 'b']);
  });

  it('are mended by what needs nobody’s hand alone', () => {
    const go = { do: 'go' as const, label: 'Open', step: 'Do it', to: { place: 'goods' as const } };
    const all = [
      finding('a', { mends: [go] }),
      finding('b', { mends: [go, { do: 'take-away', label: 'Take it away', placement: 'p' }] }),
    ];
    expect(mendsOf(all)).toEqual([{ key: 'b', n: 1, label: 'Take it away', name: 'b' }]);
  });

  it('name the mend of several by what is true of all', () => {
    const write = (price: string) =>
      finding(price, {
        mends: [
          { do: 'put-back', label: `Write ${price}`, labelOfMany: 'Write the prices of today' },
          { do: 'take-over', label: 'Take it over' },
        ],
      });
    expect(mendLabel({ findings: [write('£4')] }, 0)).toBe('Write £4');
    expect(mendLabel({ findings: [write('£4'), write('£5')] }, 0)).toBe('Write the prices of today');
    expect(mendLabel({ findings: [write('£4'), write('£5')] }, 1)).toBe('Take it over');
  });
});
