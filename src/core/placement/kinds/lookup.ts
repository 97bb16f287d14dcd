import { z } from 'zod';
import { lookupFragment } from '../../storefront/lookup';
import { defineKind, type WriteContext } from '../kind';
import { heading, headingField, lang, langField, level, levelField, room, saysIn } from './common';

export const lookupSettings = z.object({ heading, level, lang });
type LookupSettings = z.infer<typeof lookupSettings>;

const link = (s: LookupSettings, c: WriteContext) => ({
  href: `${c.shopUrl}/lookup`,
  text: saysIn(s, c).lookUp,
});

export const orderLookup = defineKind<LookupSettings>({
  kind: 'lookup',
  name: 'Order lookup',
  hint: 'Where an order is, by number and mail address.',
  sign: '<path d="M2.4.8h7.2v10l-1.8-1.2L6 10.8 4.2 9.6 2.4 10.8z" fill="none" stroke="currentColor" stroke-width="1.2"/><path d="M4 4.6l1.5 1.5L8.2 3.4" fill="none" stroke="currentColor" stroke-width="1.3"/>',
  drawing:
    '<path d="M15 4h22v30l-3.7-2.6-3.6 2.6-3.7-2.6-3.7 2.6-3.6-2.6L15 34z" class="s"/><path d="M20 17l4.4 4.4L32 13" class="s"/>',
  script: 'more',
  settings: lookupSettings,
  fields: [headingField, levelField, langField],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 260,
  link,
  inner: (s, c) => room(s.heading ? '13.5rem' : '10rem', link(s, c)),
  draw: async (s, { w, steps, lookupHref }) =>
    lookupFragment(
      { ...s, action: lookupHref, number: '', email: '', problem: '', order: null, more: '' },
      w,
      steps,
    ),
  describe: () => 'Order lookup',
});
