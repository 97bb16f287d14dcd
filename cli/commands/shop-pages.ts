import type { Plan } from '../../src/core/placement/plan';
import { buildShopPage, chooseModel, pagesLike } from '../../src/core/placement/shop-page';
import { robotsFor, shopPageMain } from '../../src/core/placement/shop-page-main';
import { type PagePath, rebaseLink, relativeAddress } from '../../src/core/site/paths';
import { invalid } from '../../src/services/errors';
import { shopAddress } from '../../src/core/site/set-up';
import { shopParts, shopPagesOf } from '../../src/services/sites/shop-places';
import type { Command } from '../support/command';
import { findPage, loadPlan, type ReadSite, readFrom } from '../support/site';
import { targetOf, writeSite } from '../support/write-site';
import { count } from './read';

export const shopPages: Command = {
  name: 'shop-pages',
  about: "Builds the pages of the shop from the site's own header, menu and footer.",
  usage: 'shop-pages DIR --plan plan.json [--model PAGE] (--out DIR2 | --in-place)',
  help: 'The plan names the pages ("shopPages"); without any, all are built. The plainest page of the site is the model, unless one is named.',
  options: {
    plan: { type: 'string' },
    model: { type: 'string' },
    out: { type: 'string' },
    'in-place': { type: 'boolean' },
  },
  needs: ['DIR'],
  async run({ args: [dir = ''], flags }, out) {
    const plan = await loadPlan(String(flags.plan ?? 'plan.json'));
    const target = targetOf(dir, flags);
    const site = await readFrom(dir, out, plan);
    const model = typeof flags.model === 'string' ? findPage(site, flags.model) : undefined;
    const built = await buildShopPages(
      site,
      { ...plan, shopPages: plan.shopPages.length ? plan.shopPages : [...shopParts] },
      model,
    );
    await writeSite(site.files, dir, new Map(built.map((b) => [b.path, b.bytes])), target);
    out.give(built.map(({ path, part, model: m }) => ({ path, part, model: m })));
    out.say(
      `${count(built.length, 'page')} built from ${built[0]?.model}: ${built.map((b) => b.path).join(', ')}`,
    );
    return 0;
  },
};

export interface BuiltPage {
  readonly part: string;
  readonly path: PagePath;
  readonly bytes: Uint8Array;
  readonly model: PagePath;
}

export async function buildShopPages(site: ReadSite, plan: Plan, model?: PagePath): Promise<BuiltPage[]> {
  const facts = model ? site.reading.pages.find((p) => p.path === model) : chooseModel(site.reading.pages);
  if (!facts) throw invalid('The site has no page to take header and footer from.');
  const manifest = Object.fromEntries(site.files.paths.map((p) => [p, 'there']));
  const pages = shopPagesOf({ manifest, reading: site.reading }, shopAddress.parse({})).filter((p) =>
    (plan.shopPages as readonly string[]).includes(p.part),
  );
  const page = await site.load(facts.path);
  const others = await Promise.all(pagesLike(site.reading.pages, facts).map((p) => site.load(p.path)));
  const shop = plan.shop.url.replace(/\/$/, '');
  return pages.map((p) => {
    const hrefs = Object.fromEntries(pages.map((x) => [x.part, relativeAddress(p.path, x.address)]));
    const main = (titled: boolean) =>
      shopPageMain({
        part: p.part,
        title: p.title,
        titled,
        shopUrl: shop,
        scriptUrl: plan.shop.script ?? new URL('/stall.js', plan.shop.url).href,
        hrefs,
      });
    const bytes = buildShopPage(page, {
      part: p.part,
      title: `${p.title} \u00b7 ${site.reading.name}`,
      heading: p.title,
      main,
      others,
      scripts: 'keep',
      lang: facts.lang || site.reading.lang,
      head: robotsFor(p.part),
      link: (href) => rebaseLink(href, facts.path, p.path),
    });
    return { part: p.part, path: p.path, bytes, model: facts.path };
  });
}
