import { onPage, openBench, type Rule } from '../../rule';

/** Something is fetched without encryption by a page that is encrypted. */
export const insecure: Rule = {
  name: 'insecure',
  about:
    'A script, style sheet, frame, picture or form with an http: address on a site that is served by https: browsers stop or warn.',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    if (!s.site.liveUrl.startsWith('https:')) return;
    for (const p of s.pages)
      for (const i of p.insecure) {
        const safe = i.address.replace(/^http:/i, 'https:');
        const name = ['src', 'href', 'data', 'poster', 'action'].find((n) =>
          new RegExp(`\\s${n}\\s*=\\s*["']?\\s*http:`, 'i').test(i.source),
        );
        yield {
          about: `${p.path} ${i.address}`,
          place: onPage(p, i),
          title: `A ${words[i.what] ?? i.what} is fetched without encryption`,
          meets:
            i.what === 'form'
              ? 'The browser warns before anything is sent.'
              : `The browser leaves it out: ${i.address.slice(0, 60)}.`,
          weight: i.what === 'img' || i.what === 'video' || i.what === 'audio' ? 'untidy' : 'broken',
          mends: [
            ...(i.source && name
              ? [
                  {
                    do: 'repair' as const,
                    label: 'Fetch it by https',
                    repair: {
                      page: p.path,
                      block: i.block,
                      source: i.source,
                      act: { do: 'attribute' as const, name, value: safe },
                      words: `${i.address.slice(0, 40)} is fetched by https`,
                    },
                  },
                ]
              : []),
            openBench(p.path, `Line ${i.line}: write https:// in front, or leave it out.`),
          ],
        };
      }
  },
};

const words: Readonly<Record<string, string>> = {
  img: 'picture',
  iframe: 'frame',
  link: 'style sheet',
  form: 'form',
};
