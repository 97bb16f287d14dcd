import { usualMenu } from '../../src/services/sites/usual-menu';
import { eachPage, type Files, inHead, insert, insertFirst, put } from './break-files';
import type { Breaking } from './break-shop';

const anywhere: Breaking['at'] = () => true;
const says =
  (words: string): Breaking['at'] =>
  (f, page) =>
    f.place.page === page && f.title.includes(words);

/** Menus and what they stand in, however a site makes them. */
const bars = ['nav', 'header', '[role=navigation]', '[class*=related]', '[class*=sidebar]']
  .flatMap((b) => [b, `${b} *`])
  .join(',');

/** A card on the page, and a style sheet of the owner's that treats it badly. */
const badly = (style: string, words: string, kind = 'card'): Breaking => ({
  rule: 'stands-badly',
  files: (f, p) => inHead(f, p, `<style>${style}</style>`),
  shop: async (shop, page) => void (await put(shop, page, kind, { goods: 'saltmarsh-creel' })),
  at: says(words),
});

/** What only a browser knows: how things stand in the real page. */
export const seenBreakings: readonly Breaking[] = [
  badly('stall-card{position:absolute!important;left:-4000px}', 'outside the page'),
  badly('stall-card{display:none!important}', 'no size'),
  badly('stall-card{width:1900px!important;max-width:none!important}', 'wide in a column'),
  badly('stall-card{transform:scale(.3)}', 'smaller than 24 px'),
  {
    rule: 'stands-badly',
    files: (f, p) =>
      insert(f, p, '<div style="position:fixed;inset:0;background:#fff;z-index:99999">We keep crumbs</div>'),
    shop: async (shop, page) => void (await put(shop, page, 'card', { goods: 'saltmarsh-creel' })),
    at: says('covered by “We keep crumbs”'),
  },
  {
    rule: 'stands-badly',
    files: (f) =>
      eachPage(f, (p) =>
        inHead(f, p, '<style>stall-cart{display:block!important;height:140px!important}</style>'),
      ),
    at: (f) => f.title.includes('makes the header'),
  },
  {
    rule: 'stands-badly',
    files: (f, p) => inHead(f, p, '<style>iframe{height:120px!important}</style>'),
    shop: async (shop, page) =>
      void (await put(shop, page, 'card', { goods: 'saltmarsh-creel' }, { spelling: 'frame' })),
    at: says('The frame hides'),
  },
  {
    rule: 'stands-badly',
    // It has no room until its script is there, and the page opens with it.
    files: (f, p) =>
      inHead(
        f,
        p,
        '<style>stall-card:not(:defined){display:none!important}main{padding-top:0!important}</style>',
      ),
    shop: async (shop, page) =>
      void (await put(shop, page, 'card', { goods: 'saltmarsh-creel' }, { first: true })),
    at: says('pushes the page'),
  },
  {
    rule: 'menu-fits',
    files: (f) => eachPage(f, (p) => inHead(f, p, '<style>a{white-space:nowrap!important}</style>')),
    // Where the menu is made of folds, in the one that is open on the page.
    shop: async (shop, page) => {
      const site = await shop.site();
      const { menu } = site.row;
      const fold = usualMenu(site)?.items.find((m) => !m.href && m.children.some((c) => c.page === page));
      const label =
        'The shop of all that was made by hand in this yard since the great flood of seventy-four';
      await shop.setRow({
        menu: menu.map((c) =>
          c.do === 'add'
            ? { ...c, label: `${label}, ${label}`, ...(fold && { at: { under: [fold.label] } }) }
            : c,
        ),
      });
    },
    at: (f) => f.title.startsWith('The menu'),
  },
  {
    rule: 'font-missing',
    files: (f, p) =>
      inHead(
        f,
        p,
        '<style>@font-face{font-family:"Yard Serif";src:url(no-such-font.woff2)}p{font-family:"Yard Serif",serif!important}</style>',
      ),
    shop: async (shop, page) => void (await put(shop, page, 'card', { goods: 'saltmarsh-creel' })),
    at: says('Yard Serif'),
  },
  {
    rule: 'menu-unreadable',
    files: (f: Files) =>
      eachPage(f, (p) => {
        inHead(f, p, `<style>${bars}{background:#fff!important;color:#fff!important}</style>`);
        // What the menu lies on comes with the content of each page.
        insertFirst(f, p, `<style>${bars}{background:#222!important}</style>`);
      }),
    at: anywhere,
  },
];
