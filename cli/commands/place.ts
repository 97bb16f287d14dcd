import { computePage } from '../../src/core/placement/compute-page';
import type { PlaceContext } from '../../src/core/placement/place';
import type { Plan } from '../../src/core/placement/plan';
import { reachesShopPages, reachIn } from '../../src/core/placement/reach';
import { type PagePath, relativeAddress } from '../../src/core/site/paths';
import { parsePageFile } from '../../src/core/site/read-page';
import type { Command, Output } from '../support/command';
import { loadPlan, type ReadSite, readFrom } from '../support/site';
import { type Changes, targetOf, writeSite } from '../support/write-site';
import { count } from './read';
import { buildShopPages } from './shop-pages';

export const place: Command = {
  name: 'place',
  about: 'Puts a plan into a site: placements, changes to the menu, pages of the shop.',
  usage: 'place DIR --plan plan.json (--out DIR2 | --in-place)',
  help: 'DIR2 is a whole copy. What cannot be set surely is left out and told, with the best proposal; then the exit status is 1.\nPlacing twice is placing once: what the plan put there before is taken out first.',
  options: { plan: { type: 'string' }, out: { type: 'string' }, 'in-place': { type: 'boolean' } },
  needs: ['DIR'],
  async run({ args: [dir = ''], flags }, out) {
    const plan = await loadPlan(String(flags.plan ?? 'plan.json'));
    const target = targetOf(dir, flags);
    const site = await readFrom(dir, out, plan);
    const done = await applyPlan(site, plan, out);
    await writeSite(site.files, dir, done.changes, target);
    out.give({
      pages: done.changes.size,
      placed: done.placed,
      lost: done.lost,
      menu: done.menu,
      shopPages: done.shopPages,
    });
    out.say(
      `${count(done.changes.size, 'page')} written, ${count(done.placed, 'placement')} set${done.shopPages.length ? `, ${count(done.shopPages.length, 'page')} built for the shop` : ''}.`,
    );
    for (const l of done.lost)
      out.warn(
        `${l.page}: ${l.id} was left out: ${l.why}.${l.best ? ` Perhaps ${l.best.label} (${Math.round(l.best.confidence * 100)}%).` : ''}`,
      );
    for (const m of done.menu) out.warn(`${m.page}: the menu was left as it is: ${m.why}.`);
    for (const note of site.reading.notes) out.warn(note);
    return done.lost.length + done.menu.length > 0 ? 1 : 0;
  },
};

interface Applied {
  readonly changes: Changes;
  readonly placed: number;
  readonly lost: { page: string; id: string; why: string; best?: { label: string; confidence: number } }[];
  readonly menu: { page: string; why: string }[];
  readonly shopPages: readonly string[];
}

export async function applyPlan(site: ReadSite, plan: Plan, out: Output): Promise<Applied> {
  const within = reachIn(site.reading);
  const changes = new Map<PagePath, Uint8Array | undefined>();
  const lost: Applied['lost'] = [];
  const menu: Applied['menu'] = [];
  let placed = 0;
  const one = (
    path: PagePath,
    page: Parameters<typeof computePage>[0],
    placements: Plan['placements'],
  ): void => {
    const done = computePage(
      page,
      { placements, menu: plan.menu, repairs: plan.repairs },
      contextFor(plan, path, site.reading.lang),
      site.index.find,
    );
    placed += done.placed.length;
    lost.push(
      ...done.lost.map((l) => ({
        page: path,
        id: l.id,
        why: l.why,
        ...(l.best && { best: { label: l.best.label, confidence: l.best.confidence } }),
      })),
    );
    if (done.menuProblem) menu.push({ page: path, why: done.menuProblem });
    changes.set(path, done.bytes);
  };
  for (const [n, { path }] of site.reading.pages.entries()) {
    const here = plan.placements.filter((p) => within(p.reach, path));
    const before = await site.files.read(path);
    if (here.length > 0 || plan.menu.length > 0 || plan.repairs.some((x) => x.page === path))
      one(path, await site.load(path), here);
    else changes.set(path, await site.owners(path));
    // A page that comes out as it went in is not written.
    if (Buffer.from(before).equals(changes.get(path) ?? Buffer.alloc(0))) changes.delete(path);
    out.progress('placing on page', n + 1, site.reading.pages.length);
  }
  const built = plan.shopPages.length ? await buildShopPages(site, plan) : [];
  for (const { path, bytes } of built) {
    const parsed = parsePageFile(path, bytes);
    if ('page' in parsed)
      one(
        path,
        parsed.page,
        plan.placements.filter((p) => reachesShopPages(p.reach, p.pitch.region)),
      );
  }
  return { changes, placed, lost, menu, shopPages: built.map((b) => b.path) };
}

export const contextFor = (plan: Plan, path: PagePath, lang: string): PlaceContext => ({
  lang,
  shopUrl: plan.shop.url.replace(/\/$/, ''),
  scriptUrl: plan.shop.script ?? new URL('/stall.js', plan.shop.url).href,
  cartHref: relativeAddress(path, plan.shop.cart),
  includePath: plan.shop.include,
  productName: (slug) => plan.shop.goods[slug],
});
