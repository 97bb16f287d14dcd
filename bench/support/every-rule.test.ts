import { describe, expect, it } from 'vitest';
import { rules } from '../../src/core/checks/rules';
import { mend } from '../../src/services/checks/mend';
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

describe('a mend', () => {
  it('puts the shop where the menu takes it: in a fold, on a site whose front page has no menu at all', async () => {
    const fold = (title: string, items: string) =>
      `<li><button aria-expanded="false">${title}</button><ul>${items}</ul></li>`;
    const item = (to: string, label: string) => `<li><a href="${to}">${label}</a></li>`;
    const menu = `<nav><ul>${fold('Of us', item('about.html', 'About') + item('visit.html', 'Visit'))}${fold('Write', item('contact.html', 'Contact') + item('post.html', 'By post'))}</ul></nav>`;
    const inner = (name: string) =>
      page(name, '', `All that there is to ${name.toLowerCase()}.`).replace(/<nav>.*<\/nav>/s, menu);
    const shop = await CheckedShop.open({
      'index.html': page('Quern', '', 'Come in.').replace(
        /<header>.*<\/header>/s,
        '<a href="about.html">Enter</a>',
      ),
      ...Object.fromEntries(['About', 'Visit', 'Contact'].map((n) => [`${n.toLowerCase()}.html`, inner(n)])),
      'post.html': inner('Post'),
    });
    try {
      await shop.setRow({ menu: [] });
      const [missing] = (await shop.check()).findings.filter((f) => f.rule === 'shop-in-no-menu');
      expect(missing?.mends[0]?.label).toBe('Put it into the menu');
      await mend(shop.world.ctx, await shop.site(), [{ key: missing?.key ?? '', n: 0 }], 'test');
      expect((await shop.site()).row.menu).toMatchObject([{ do: 'add', at: { under: ['Of us'] } }]);
      expect((await shop.check()).findings.map((f) => f.rule)).not.toContain('shop-in-no-menu');
    } finally {
      await shop.end();
    }
  });
});
