import { updateGoods } from './goods-by-name';
import { change, takeAway } from '../../src/services/sites/placing';
import { draftState } from '../../src/services/sites/state';
import {
  bare,
  eachPage,
  type Files,
  htmlPages,
  inHead,
  insert,
  labelOf,
  onEnd,
  onTop,
  put,
  text,
  toRoot,
  unlink,
} from './break-files';
import type { CheckedShop } from './checked-shop';

/** One way in which a good site with a good shop is broken, and what the checks are to say of it. */
export interface Breaking {
  readonly rule: string;
  /** Before the site comes in. @param page one of its pages, not the front. */
  readonly files?: (files: Files, page: string) => void;
  /** When it sells. */
  readonly shop?: (shop: CheckedShop, page: string) => Promise<void>;
  /** Where it is to be found, beside the rule. */
  readonly at: (
    finding: {
      readonly title: string;
      readonly place: {
        readonly on: string;
        readonly page?: string;
        readonly name: string;
        readonly line?: number;
      };
    },
    page: string,
  ) => boolean;
}

const onPage: Breaking['at'] = (f, page) => f.place.page === page;
const anywhere: Breaking['at'] = () => true;
const named =
  (name: string): Breaking['at'] =>
  (f) =>
    f.place.name === name || f.title.includes(name);

const SHOP = 'https://shop.test/stranger';
const element = (kind: string, attributes: string) =>
  `<stall-${kind} ${attributes} shop="${SHOP}"><a href="#">x</a></stall-${kind}>`;
const script = '<script async src="https://shop.test/stall.js"></script>';

async function cartsBut(shop: CheckedShop, page: string): Promise<void> {
  const { ctx } = shop.world;
  const site = await shop.site();
  for (const p of (await draftState(ctx, site)).placements)
    if (p.kind === 'cart') await change(ctx, site, p.id, { reach: { to: 'every', except: [page] } });
}

export const breakings: readonly Breaking[] = [
  { rule: 'way-to-cart', shop: cartsBut, at: onPage },
  { rule: 'way-to-product', shop: async (shop) => shop.setRow({ menu: [], shop: null }), at: anywhere },
  { rule: 'shop-in-no-menu', shop: async (shop) => shop.setRow({ menu: [] }), at: anywhere },
  {
    rule: 'menu-to-cart',
    shop: async (shop) => {
      const { menu } = (await shop.site()).row;
      await shop.setRow({
        menu: menu.map((c) =>
          c.do === 'add' ? { ...c, to: c.to.replace(/shop(\.html|\/)?$/, 'cart$1') } : c,
        ),
      });
    },
    at: named('Shop'),
  },
  {
    rule: 'dead-link',
    files: (f, p) => insert(f, p, '<p>More in <a href="no-such-page-at-all.html">the yard book</a>.</p>'),
    at: (f, p) => onPage(f, p) && f.title.includes('yard book'),
  },
  {
    rule: 'dead-fragment',
    files: (f, p) => insert(f, p, '<p>See <a href="#osier-yard-xyz">the yard</a>.</p>'),
    at: (f, p) => onPage(f, p) && f.title.includes('the yard'),
  },
  {
    rule: 'script-missing',
    files: (f, p) => insert(f, p, element('buy', 'goods="saltmarsh-creel"')),
    shop: async (shop, page) => cartsBut(shop, page),
    at: onPage,
  },
  { rule: 'script-twice', files: (f, p) => insert(f, p, script), at: onPage },
  {
    rule: 'code-as-text',
    files: (f, p) => insert(f, p, '<p>&lt;stall-buy goods="saltmarsh-creel"&gt;</p>'),
    at: onPage,
  },
  {
    rule: 'bad-code',
    files: (f, p) => insert(f, p, '<p>[stall wheelbarrow goods="saltmarsh-creel"]</p>'),
    at: onPage,
  },
  {
    rule: 'unknown-goods',
    shop: async (shop, page) => void (await put(shop, page, 'card', { goods: 'no-such-thing' })),
    at: onPage,
  },
  {
    rule: 'unknown-goods',
    shop: async (shop, page) => {
      await put(shop, page, 'card', { goods: 'saltmarsh-creel' });
      await updateGoods(shop, 'Saltmarsh creel', { shows: 'hidden' });
    },
    at: onPage,
  },
  {
    rule: 'unknown-choice',
    shop: async (shop, page) =>
      void (await put(shop, page, 'buy', { goods: 'saltmarsh-creel', choice: 'XXL, blue' })),
    at: onPage,
  },
  {
    rule: 'unknown-category',
    shop: async (shop, page) => void (await put(shop, page, 'row', { source: 'category', category: 'Hats' })),
    at: onPage,
  },
  {
    rule: 'unknown-shop',
    files: (f, p) =>
      insert(
        f,
        p,
        '<stall-buy goods="saltmarsh-creel" shop="https://elsewhere.example/other"><a href="#">x</a></stall-buy>',
      ),
    at: onPage,
  },
  {
    rule: 'two-fronts',
    shop: async (shop, page) => {
      await put(shop, page, 'shop', {});
      await put(shop, page, 'shop', { heading: 'More' });
    },
    at: onPage,
  },
  {
    rule: 'same-twice',
    shop: async (shop, page) => {
      await put(shop, page, 'card', { goods: 'saltmarsh-creel' });
      await put(shop, page, 'card', { goods: 'saltmarsh-creel' });
    },
    at: onPage,
  },
  {
    rule: 'widgets-contradict',
    shop: async (shop, page) =>
      void (await put(shop, page, 'buy', { goods: 'saltmarsh-creel', text: 'Buy the creel, £59.00' })),
    at: onPage,
  },
  {
    rule: 'widgets-contradict',
    shop: async (shop, page) =>
      void (await put(shop, page, 'row', {
        source: 'chosen',
        goods: ['saltmarsh-creel'],
        heading: 'Creels at £12.00',
      })),
    at: onPage,
  },
  {
    rule: 'widgets-contradict',
    shop: async (shop, page) => {
      await put(shop, page, 'row', { source: 'chosen', goods: ['saltmarsh-creel'] });
      await put(shop, page, 'card', { goods: 'saltmarsh-creel', lang: 'de' });
    },
    at: onPage,
  },
  {
    rule: 'insecure',
    files: (f, p) => insert(f, p, '<p><img src="http://pictures.example/creel.jpg" alt="A creel"></p>'),
    at: onPage,
  },
  {
    rule: 'frame-cut',
    files: (f, p) =>
      insert(f, p, `<iframe src="${SHOP}/frame/shop?perPage=12" title="Shop" height="300"></iframe>`),
    shop: async (shop, page) => cartsBut(shop, page),
    at: onPage,
  },
  {
    rule: 'policy-forbids',
    files: (f, p) => {
      f[p] = Buffer.from(
        text(f, p).replace(
          /<head[^>]*>/i,
          (h) => `${h}<meta http-equiv="Content-Security-Policy" content="script-src 'self'">`,
        ),
        'latin1',
      );
    },
    at: onPage,
  },
  {
    rule: 'page-alt',
    files: (f, p) => insert(f, p, '<p><img src="yard.jpg" alt="IMG_4711.JPG"></p>'),
    at: onPage,
  },
  { rule: 'placeholder-text', files: (f, p) => insert(f, p, '<p>[Your text here]</p>'), at: onPage },
  {
    rule: 'price-in-text',
    files: (f, p) => insert(f, p, '<p>Our saltmarsh creel is &pound;61 this year.</p>'),
    at: (f, p) => onPage(f, p) && f.title.includes('61'),
  },
  {
    rule: 'price-in-text',
    files: (f, p) =>
      insert(f, p, '<h3>Quernstone trencher</h3><p>Turned in one piece.</p><p>&#163;39.50</p>'),
    at: (f, p) => onPage(f, p) && f.title.includes('39.50'),
  },
  {
    rule: 'by-link-in-list',
    shop: async (shop) => {
      await put(shop, (await shop.site()).reading.pages[0]?.path ?? '', 'card', { goods: 'saltmarsh-creel' });
      await updateGoods(shop, 'Saltmarsh creel', { shows: 'link' });
    },
    at: anywhere,
  },
  {
    rule: 'sold-out',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { stock: 0 }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'from-price',
    shop: (shop) =>
      updateGoods(shop, 'Saltmarsh creel', {
        options: [{ name: 'Size', values: [{ name: 'S' }, { name: 'L' }] }],
        variants: [
          { values: ['S'], stock: 0, price: 3000, weight: 5 },
          { values: ['L'], stock: 4, price: 6800, weight: 5 },
        ],
      }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'offer-ended',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { badge: 'Sale' }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'no-picture',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { pictures: [] }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'alt-missing',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { alt: 'DSC_0042.jpg' }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'badge-long',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { badge: 'The very last of the yr' }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'samples-left',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { sample: true }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'twins',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { name: 'Yaffle birdhouse' }),
    at: named('Yaffle birdhouse'),
  },
  { rule: 'no-way-to-pay', shop: (shop) => shop.till('pay', { ways: [] }), at: anywhere },
  {
    rule: 'transfer-account',
    shop: (shop) =>
      shop.till('pay', {
        ways: [
          { id: 'card', kind: 'card' },
          { id: 'transfer', kind: 'transfer' },
        ],
      }),
    at: anywhere,
  },
  { rule: 'shipping-region', shop: (shop) => shop.till('shipping', { regions: [] }), at: anywhere },
  {
    rule: 'shipping-gaps',
    shop: (shop) =>
      shop.till('shipping', {
        regions: [
          {
            id: 'uk',
            name: 'United Kingdom',
            areas: [{ country: 'GB' }],
            ways: [{ id: 'post', name: 'Post', by: 'weight', bands: [{ upTo: 500, price: 300 }] }],
          },
        ],
      }),
    at: anywhere,
  },
  {
    rule: 'weight-missing',
    shop: async (shop) => {
      await shop.till('shipping', {
        regions: [
          {
            id: 'uk',
            name: 'United Kingdom',
            areas: [{ country: 'GB' }],
            ways: [{ id: 'post', name: 'Post', by: 'weight', bands: [{ upTo: null, price: 300 }] }],
          },
        ],
      });
      await updateGoods(shop, 'Saltmarsh creel', { weight: null });
    },
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'class-without-rate',
    shop: async (shop) => {
      await shop.till('tax', {
        charged: true,
        home: { country: 'GB', state: '' },
        rates: [{ country: 'GB', class: 'standard', percent: 20 }],
      });
      await updateGoods(shop, 'Saltmarsh creel', { taxClass: 'books' });
    },
    at: anywhere,
  },
  {
    rule: 'code-never',
    shop: (shop) =>
      shop.till('discounts', [{ id: 'old', name: 'Spring', code: 'SPRING', until: '2025-03-01T00:00' }]),
    at: anywhere,
  },
  { rule: 'texts-missing', shop: (shop) => shop.till('checkout', { policies: [] }), at: anywhere },
  { rule: 'texts-missing', shop: (shop) => shop.till('seller', { name: '', address: '' }), at: anywhere },
  {
    rule: 'journal-on-shop',
    files: (f) => {
      for (const p of Object.keys(f))
        if (/\.html?$/.test(p))
          f[p] = Buffer.from(
            text(f, p).replace(
              /<footer|<\/body>/i,
              (m) =>
                `<div class="below"><form class="comment-form" action="/comment" method="post"><textarea name="comment"></textarea></form></div>${m}`,
            ),
            'latin1',
          );
    },
    at: anywhere,
  },
  {
    rule: 'settings-unknown',
    shop: async (shop, page) => {
      const id = await put(shop, page, 'card', { goods: 'saltmarsh-creel' });
      await shop.breakSettings(id);
    },
    at: onPage,
  },
  {
    rule: 'way-to-shop',
    // A page without the site's menu, and without links that another could be made of.
    files: (f, p) => {
      bare(f, p);
      unlink(f, p);
    },
    // And without the line that pages get which have no menu.
    shop: async (shop) => {
      const line = (await shop.site()).row.shop?.made.line;
      if (line) await takeAway(shop.world.ctx, await shop.site(), line);
    },
    at: onPage,
  },
  {
    rule: 'way-back',
    files: (f) => {
      for (const p of Object.keys(f).filter((x) => /\.html?$/.test(x)))
        f[p] = Buffer.from(text(f, p).replace(/<a\b([^>]*)href="[^"]*"([^>]*)>/gi, '<a$1$2>'), 'latin1');
    },
    at: anywhere,
  },
  {
    rule: 'currency-in-text',
    files: (f, p) => insert(f, p, '<p>The saltmarsh creel is &euro;80 at the fair.</p>'),
    at: onPage,
  },
  {
    rule: 'empty-category',
    files: (f, p) => insert(f, p, `<p><a href="${toRoot(p)}shop.html?category=Hats">Our hats</a></p>`),
    at: onPage,
  },
  {
    rule: 'picture-small',
    shop: (shop) => updateGoods(shop, 'Saltmarsh creel', { picture: [120, 90] }),
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'trying-out',
    shop: async (shop) => {
      await shop.publish();
      await shop.till('pay', { test: true });
    },
    at: anywhere,
  },
  {
    rule: 'pitch-gone',
    shop: async (shop, page) => {
      const id = await put(shop, page, 'card', { goods: 'saltmarsh-creel' });
      await shop.losePitch(id);
    },
    at: onPage,
  },
  {
    rule: 'code-never',
    shop: (shop) =>
      shop.till('discounts', [
        { id: 'hats', name: 'Hats', code: 'HATS', scope: { to: 'categories', categories: ['Hats'] } },
      ]),
    at: anywhere,
  },
  {
    rule: 'script-only',
    files: (f, p) => {
      f[p] = Buffer.from(
        '<!doctype html><html><head><title>Yard</title></head><body><div id="app"></div><script src="yard.js"></script></body></html>',
      );
    },
    shop: async (shop, page) => void (await put(shop, page, 'card', { goods: 'saltmarsh-creel' })),
    at: onPage,
  },
  {
    rule: 'was-price',
    shop: async (shop) => {
      await shop.daysLater(40);
      await updateGoods(shop, 'Saltmarsh creel', { price: 5900, was: 9900 });
    },
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'shapes-mixed',
    shop: async (shop) => {
      await shop.look('shape:picture', 'own');
      await updateGoods(shop, 'Saltmarsh creel', { picture: [400, 900] });
    },
    at: named('Saltmarsh creel'),
  },
  {
    rule: 'contrast',
    shop: async (shop) => {
      await shop.look('tie:accent', { free: '#fdfdfd' });
      await shop.look('tie:accent-ink', { free: '#f1f1f1' });
      await shop.look('as:button', 'site');
    },
    at: anywhere,
  },
  {
    rule: 'not-connected',
    shop: async (shop) => {
      const { ctx } = shop.world;
      Object.assign(ctx, { providers: { wallet: ctx.providers.wallet } });
      await shop.till('pay', {
        ways: [
          { id: 'card', kind: 'card' },
          { id: 'wallet', kind: 'wallet' },
        ],
      });
    },
    at: anywhere,
  },
  {
    rule: 'menu-differs',
    // Where an item has another name, and the page calls it otherwise from the start.
    files: (f, p) => {
      f[p] = Buffer.from(
        text(f, p).replace(/(<a [^>]*>\s*)(?:Contact|Store)(\s*<\/a>)/gi, '$1Write to us$2'),
        'latin1',
      );
    },
    shop: async (shop) => {
      const { row, reading } = await shop.site();
      const beside = reading.chrome.flatMap((c) => c.menu).find((i) => /^(Contact|Store)$/i.test(i.label));
      const renamed = { do: 'rename' as const, item: [beside?.label ?? ''], label: 'Say hello' };
      await shop.setRow({ menu: [...row.menu, renamed] });
    },
    at: onPage,
  },
  {
    rule: 'page-weight',
    shop: async (shop, page) =>
      shop.repeat(await put(shop, page, 'buy', { goods: 'saltmarsh-creel', text: 'Buy the creel' }), 250),
    at: onPage,
  },
  {
    rule: 'page-switching',
    files: (f, p) =>
      inHead(
        f,
        p,
        '<script>function go(u){history.pushState({},"",u);fetch(u).then(r=>r.text()).then(t=>{document.querySelector("main").innerHTML=t})}</script>',
      ),
    shop: async (shop, page) => {
      const { ctx } = shop.world;
      for (const p of (await draftState(ctx, await shop.site())).placements)
        if (p.kind === 'cart') await takeAway(ctx, await shop.site(), p.id);
      await put(shop, page, 'cart', {});
    },
    at: onPage,
  },
  {
    rule: 'shop-not-current',
    // A menu in which the page one is on is no link.
    files: (f) => {
      const pages = htmlPages(f).slice(0, 5);
      for (const p of htmlPages(f)) {
        bare(f, p);
        const item = (to: string) =>
          `<li>${to === p ? `<span>${labelOf(to)}</span>` : `<a href="${toRoot(p)}${to}">${labelOf(to)}</a>`}</li>`;
        onTop(f, p, `<header><b>Quern</b><nav><ul>${pages.map(item).join('')}</ul></nav></header>`);
      }
    },
    at: anywhere,
  },
  {
    rule: 'header-differs',
    // The front page alone has a header, and a footer of its own; the others share a footer.
    files: (f) => {
      const [second = ''] = htmlPages(f).filter((p) => p !== 'index.html');
      for (const p of htmlPages(f)) bare(f, p);
      for (const p of htmlPages(f))
        onEnd(f, p, p === 'index.html' ? 'Landed in the yard' : 'By the weir, since the mill');
      onTop(
        f,
        'index.html',
        `<header class="landing"><nav><ul><li><a href="index.html">Landing</a></li><li><a href="${second}">Who we are</a></li></ul></nav></header>`,
      );
    },
    at: anywhere,
  },
  {
    rule: 'look-drift',
    shop: async (shop) => {
      await shop.publish();
      await shop.newer((files) =>
        eachPage(files, (p) =>
          inHead(
            files,
            p,
            '<style>body,p,li{color:#5b1a8a!important;background:#fdf6e3!important}a,.btn{color:#0a7d32!important}</style>',
          ),
        ),
      );
    },
    at: anywhere,
  },
  {
    rule: 'letters-stuck',
    shop: async (shop) => {
      Object.assign(shop.world.ctx, { mail: undefined });
      await shop.letter({});
    },
    at: anywhere,
  },
  { rule: 'letters-stuck', shop: (shop) => shop.letter({ tries: 2 }), at: anywhere },
  {
    rule: 'live-differs',
    shop: (shop, page) =>
      shop.goLive({
        serve: (path, usual) =>
          path === page && usual
            ? Buffer.from(usual).toString('latin1').replace('</p>', ' and more</p>')
            : usual,
      }),
    at: (f, page) => onPage(f, page) && f.title.includes('not what was published'),
  },
  {
    rule: 'live-differs',
    shop: (shop, page) => shop.goLive({ serve: (path, usual) => (path === page ? undefined : usual) }),
    at: (f, page) => onPage(f, page) && f.title.includes('gone'),
  },
  {
    rule: 'hand-out-gone',
    shop: async (shop, page) => {
      const card = await put(shop, page, 'card', { goods: 'saltmarsh-creel' });
      await shop.goLive({
        ready: (origin) => shop.handOut(card, `${origin}/elsewhere.html`),
        serve: (path, usual) => (path === 'elsewhere.html' ? '<p>A page of another house.</p>' : usual),
      });
    },
    at: anywhere,
  },
  {
    rule: 'shop-unreachable',
    shop: (shop) => shop.goLive({ serve: (path, usual) => (path.endsWith('/goods') ? undefined : usual) }),
    at: anywhere,
  },
  {
    rule: 'slower',
    shop: async (shop) => {
      let fronts = 0;
      const slow = () => new Promise((soon) => setTimeout(soon, 700));
      await shop.goLive(
        {
          // The front page is asked for twice in each look: for its time, and for what it says.
          serve: async (path, usual) => {
            if (path === 'index.html' && ++fronts > 8) await slow();
            return usual;
          },
        },
        5,
      );
    },
    at: anywhere,
  },
  {
    rule: 'live-elsewhere',
    shop: (shop) =>
      shop.goLive({
        leadsTo: (path, at) =>
          at.startsWith('127.0.0.1') && !path.endsWith('/goods')
            ? `http://${at.replace('127.0.0.1', 'localhost')}/${path}`
            : undefined,
      }),
    at: (f) => f.title.includes('http://localhost'),
  },
];
