import { pairOf } from '../../../look/pairs';
import { tokenLabels } from '../../../look/labels';
import { go, type Rule } from '../../rule';

/** A pair of the shop's colours that the owner left as the site has it, and that cannot be read. */
export const contrast: Rule = {
  name: 'contrast',
  about:
    'Text or an edge of the shop that has too little contrast where it stands (WCAG 2.2, 1.4.3 and 1.4.11).',
  weight: 'hard',
  reads: ['look'],
  *find(s) {
    for (const p of s.look.proofs) {
      if (p.passes) continue;
      const name = tokenLabels[p.of];
      yield {
        about: p.pair,
        place: { on: 'site', name: 'Look' },
        title: `${name} ${p.ratio.toFixed(2)} : 1`,
        meets: `Outdoors, on a phone, it fades into ${tokenLabels[p.on].toLowerCase()}. It needs ${p.need}.`,
        facts: [p.ratio, p.need, pairOf(p.pair)],
        mends: [
          ...(p.asSite
            ? [
                {
                  do: 'look' as const,
                  label: p.remedy ? `Use ${p.remedy.to}` : 'Make it readable',
                  forget: [`as:${p.pair}`],
                },
              ]
            : []),
          go('Open Look', 'look', {}, 'Choose another colour for it.'),
        ],
      };
    }
  },
};
