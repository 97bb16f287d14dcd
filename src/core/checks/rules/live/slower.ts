import { go, type Rule } from '../../rule';

/** A page counts as slower when it takes this many times what it takes as a rule, and longer by half a second. Chosen by hand. */
const TIMES = 2;
const LONGER_MS = 500;

export const slower: Rule = {
  name: 'slower',
  about: `The live front page takes more than ${TIMES} times what it takes as a rule, and half a second longer.`,
  weight: 'away',
  reads: ['live'],
  *find(s) {
    const { took, usual } = s.live ?? {};
    if (took == null || usual == null || took < usual * TIMES || took < usual + LONGER_MS) return;
    yield {
      about: 'time',
      place: { on: 'site', name: 'Live site' },
      title: `The live site takes ${(took / 1000).toFixed(1)} s, as a rule ${(usual / 1000).toFixed(1)} s`,
      meets: 'They wait before they see anything, and some do not.',
      facts: 'slow',
      mends: [go('Look at the site', 'site', {}, 'Ask your host; nothing of the shop is in this time.')],
    };
  },
};
