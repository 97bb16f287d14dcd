import { noRules } from '../till/rules';
import type { PagePath } from '../site/paths';
import type { Subject } from './subject';
import { walkable } from './ways/ways';
import type { WrittenPage } from './written/facts';

/** A written page in which nothing stands but what is given. */
export const writtenPage = (path: string, facts: Partial<WrittenPage> = {}): WrittenPage => ({
  path: path as PagePath,
  address: `/${path}`,
  name: path,
  kind: 'other',
  lang: 'en',
  chrome: 0,
  part: '',
  links: [],
  ids: [],
  widgets: [],
  scripts: [],
  leftovers: [],
  pictures: [],
  insecure: [],
  prices: [],
  policies: [],
  comments: [],
  menu: null,
  marksHere: null,
  menuProblem: '',
  lost: [],
  hasHeader: true,
  letters: 200,
  isShell: false,
  forwards: false,
  bytes: 1_000,
  added: 0,
  ...facts,
});

/** A subject in which all is well but what is given. */
export function subjectWith(pages: readonly WrittenPage[], more: Partial<Subject> = {}): Subject {
  return {
    now: Date.UTC(2026, 10, 27),
    site: {
      slug: 'tiny',
      name: 'Tiny',
      liveUrl: 'https://tiny.example/',
      currency: 'GBP',
      locale: 'en-GB',
      country: 'GB',
      shopUrl: 'https://shop.example/tiny',
      scriptUrl: 'https://shop.example/stall.js',
      switches: false,
      isLive: true,
      handIn: '',
      byHand: false,
      shopName: 'Shop',
      mapped: [],
      policies: [],
    },
    ...walkable(pages),
    shopPages: pages
      .filter((p) => p.part)
      .map(({ part, path, address, name }) => ({ part, path, address, name })),
    placements: new Map(),
    menu: [],
    repairs: [],
    sells: true,
    goods: {
      all: [],
      shown: [],
      bySlug: new Map(),
      categories: [],
      pathNow: (path) => path,
      chargedBefore: new Map(),
      pictures: new Map(),
    },
    till: {
      rules: noRules,
      connected: ['card'],
      letters: { waiting: 0, refused: 0, givenUpLately: 0, connected: true },
      countryName: (code) => code,
    },
    look: { proofs: [], drift: 0, picture: '4-3', badgeRoom: 14 },
    live: null,
    seen: new Map(),
    ...more,
  };
}
