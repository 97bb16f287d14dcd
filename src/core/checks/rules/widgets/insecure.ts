import type { Found } from '../../finding';
import { each, go, onPage, openBench, ownPages, repaired, type Rule } from '../../rule';
import type { Insecure, WrittenPage } from '../../written/facts';

/** Something is fetched without encryption by a page that is encrypted. */
export const insecure: Rule = {
  name: 'insecure',
  about:
    'A script, style sheet, frame, picture or form with an http: address on a site that is served by https: browsers stop or warn.',
  many: 'things fetched without encryption',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    if (!s.site.liveUrl.startsWith('https:')) return;
    if (s.sells && s.site.shopUrl.startsWith('http:')) yield shopIsNot(s.site.shopUrl);
    const own = s.site.shopUrl.slice(0, s.site.shopUrl.lastIndexOf('/') + 1);
    for (const [p, i] of each(ownPages(s), (page) => page.insecure))
      if (!i.address.startsWith(own)) yield one(p, i);
  },
};

const shopIsNot = (shopUrl: string): Found => ({
  about: 'shop',
  place: { on: 'site', name: 'Shop' },
  title: 'The site is encrypted, the shop is not',
  meets: `Browsers stop what the pages ask of ${shopUrl}: widgets stay plain links.`,
  weight: 'sale',
  mends: [
    go('What to do', 'site', {}, 'Serve the shop by https (docs/deploying.md), and set its address so.'),
  ],
});

/** What is only seen is left out; what runs or is sent breaks more. */
const onlySeen = new Set(['img', 'video', 'audio', 'source']);
const addressed = ['src', 'href', 'data', 'poster', 'action'];

function one(p: WrittenPage, i: Insecure): Found {
  const name = addressed.find((n) => new RegExp(`\\s${n}\\s*=\\s*["']?\\s*http:`, 'i').test(i.source));
  const mend = name && {
    page: p.path,
    block: i.block,
    source: i.source,
    act: { do: 'attribute' as const, name, value: i.address.replace(/^http:/i, 'https:') },
    words: `${i.address.slice(0, 40)} is fetched by https`,
  };
  return {
    about: `${p.path} ${i.address}`,
    place: onPage(p, i),
    title: `A ${words[i.what] ?? i.what} is fetched without encryption`,
    meets:
      i.what === 'form'
        ? 'The browser warns before anything is sent.'
        : `The browser leaves it out: ${i.address.slice(0, 60)}.`,
    weight: onlySeen.has(i.what) ? 'untidy' : 'broken',
    mends: [
      ...(mend ? [repaired('Fetch it by https', mend)] : []),
      openBench(p.path, `Line ${i.line}: write https:// in front, or leave it out.`),
    ],
  };
}

const words: Readonly<Record<string, string>> = {
  img: 'picture',
  iframe: 'frame',
  link: 'style sheet',
  form: 'form',
};
