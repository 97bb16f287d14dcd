import { describe, expect, it } from 'vitest';
import { rules } from '../../src/core/checks/rules';
import { seenBreakings } from './break-seen';
import { breakings } from './break-shop';
import { CheckedShop } from './checked-shop';

const page = (name: string, file: string, text: string) => {
  const item = (to: string, label: string) =>
    `<li><a href="${to}"${to === file ? ' class="active"' : ''}>${label}</a></li>`;
  return `<!doctype html><html lang="en"><head><title>${name}</title></head><body>
<header><a href="index.html">Quern &amp; Saltmarsh</a><nav><ul>${item('index.html', 'Home')}
${item('about.html', 'About')}${item('visit.html', 'Visit')}${item('contact.html', 'Contact')}</ul></nav></header>
<main><h1>${name}</h1><p>${text}</p><p>We are in the yard on Thursdays, and whenever the lamp is lit.</p></main>
<footer><p>Quern &amp; Saltmarsh, 4 Weir Lane, Osierham</p></footer></body></html>`;
};
const site = {
  'index.html': page('Quern & Saltmarsh', 'index.html', 'Creels and trenchers, made one at a time.'),
  'about.html': page('About', 'about.html', 'Two of us, and a kiln that takes its time.'),
  'visit.html': page('Visit', 'visit.html', 'Come along the weir, and ring the bell twice.'),
  'contact.html': page('Contact', 'contact.html', 'Write to us, or call before noon.'),
  'yard.jpg': 'a picture',
};

/** A rule that cannot speak finds nothing for ever, and nobody notices: each is given what it is against. */
describe('every rule', () => {
  it('is broken in some way', () => {
    const broken = new Set([...breakings, ...seenBreakings].map((b) => b.rule));
    expect(rules.map((r) => r.name).filter((name) => !broken.has(name))).toEqual([]);
  });

  it('says nothing of a whole site with a sound shop, and of a page that only forwards', async () => {
    const forwards =
      '<head><meta http-equiv="Refresh" content="0; URL=./visit.html"></head>Moved to <a href="./visit.html">our yard</a>';
    const shop = await CheckedShop.open({ ...site, 'yard.html': forwards });
    expect((await shop.check()).findings.map((f) => `${f.rule}: ${f.title}`)).toEqual([]);
    await shop.end();
  });

  it.each(breakings.map((b, n) => [`${b.rule} (${n})`, b] as const))('speaks: %s', async (_, b) => {
    const files: Record<string, string | Uint8Array> = { ...site };
    b.files?.(files, 'about.html');
    const shop = await CheckedShop.open(files);
    try {
      await b.shop?.(shop, 'about.html');
      const { findings } = await shop.check();
      const said = findings.filter((f) => f.rule === b.rule && b.at(f, 'about.html'));
      expect(said.length, findings.map((f) => `${f.rule}: ${f.title}`).join('; ')).toBeGreaterThan(0);
    } finally {
      await shop.end();
    }
  });
});
