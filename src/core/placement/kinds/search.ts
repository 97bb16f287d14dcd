import { z } from 'zod';
import { searchFragment } from '../../storefront/shop-front';
import { defineKind, type WriteContext } from '../kind';
import { heading, headingField, lang, langField, level, levelField, room, saysIn } from './common';

const searchSettings = z.object({ placeholder: z.string().trim().max(60).default(''), heading, level, lang });
type SearchSettings = z.infer<typeof searchSettings>;

const link = (s: SearchSettings, c: WriteContext) => ({
  href: `${c.shopUrl}/goods?via=${c.placementId}`,
  text: saysIn(s, c).searchFor,
});

export const searchBox = defineKind<SearchSettings>({
  kind: 'search',
  name: 'Search',
  hint: 'A box to find products; the shop page shows what it finds.',
  sign: '<circle cx="5" cy="4.8" r="3.2" fill="none" stroke="currentColor" stroke-width="1.4"/><path d="M7.4 7.2 10.6 10.4" stroke="currentColor" stroke-width="1.6"/>',
  drawing:
    '<rect x="6" y="11" width="40" height="16" rx="2" class="s"/><circle cx="15" cy="18.5" r="3.6" class="s"/><path d="M17.8 21.2l3 3M26 19h14" class="s"/>',
  script: 'more',
  settings: searchSettings,
  fields: [
    { key: 'placeholder', label: 'Words in the empty field', as: 'text', placeholder: 'Search' },
    headingField,
    levelField,
    langField,
  ],
  usualPlace: 'header',
  usualReach: 'every',
  frameHeight: 60,
  link,
  inner: (s, c) => room(s.heading ? '6.2rem' : '3rem', link(s, c)),
  draw: async (s, { w, listHref }) => searchFragment({ ...s, action: listHref }, w),
  describe: () => 'Search',
});
