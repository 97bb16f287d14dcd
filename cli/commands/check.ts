import { rulesDocument } from '../../src/core/checks/document';
import { byWeight, type Finding, weightWords } from '../../src/core/checks/finding';
import { rules } from '../../src/core/checks/rules';
import { findingsOf } from '../../src/core/checks/run';
import { readWritten } from '../../src/core/checks/written/read-written';
import { walkable } from '../../src/core/checks/ways/ways';
import type { WrittenPage } from '../../src/core/checks/written/facts';
import type { Subject } from '../../src/core/checks/subject';
import { waysIn } from '../../src/core/checks/ways/ways';
import { computePage } from '../../src/core/placement/compute-page';
import type { Plan } from '../../src/core/placement/plan';
import { chooseModel } from '../../src/core/placement/shop-page';
import { reachesShopPages, reachIn } from '../../src/core/placement/reach';
import type { PagePath } from '../../src/core/site/paths';
import { type ParsedPage, parsePageFile } from '../../src/core/site/read-page';
import { noRules } from '../../src/core/till/rules';
import type { Command, Output } from '../support/command';
import { loadPlan, type ReadSite, readFrom } from '../support/site';
import { contextFor } from './place';
import { count } from './read';
import { buildShopPages } from './shop-pages';

export const check: Command = {
  name: 'check',
  about: 'Tells what a shopper would stumble over on a site with a plan: pages as they would be written.',
  usage: 'check DIR --plan plan.json | check --rules',
  help: 'Goods, till and look are asked in the office; here pages and widgets are. --rules prints what all rules look for (docs/checks.md).\nExit status is 1 when something loses the sale.',
  options: { plan: { type: 'string' }, rules: { type: 'boolean' } },
  needs: [],
  may: ['DIR'],
  async run({ args, flags }, out) {
    if (flags.rules) {
      out.say(rulesDocument());
      out.give({ rules: rulesDocument() });
      return 0;
    }
    const plan = await loadPlan(String(flags.plan ?? 'plan.json'));
    const site = await readFrom(args[0] ?? '', out, plan);
    const subject = await subjectOf(site, plan, out);
    // What goods, till, look and live site say is not known from a folder.
    const ofPages = rules.filter((r) => r.reads.every((part) => part === 'pages'));
    const findings = ofPages.flatMap((rule) => findingsOf(rule, subject)).sort(byWeight);
    const ways = waysIn(subject).all;
    out.give({ findings, ways });
    for (const f of findings) tell(f, out);
    out.say(`${count(subject.pages.length, 'page')} checked, ${count(findings.length, 'finding')}.`);
    return findings.some((f) => f.weight === 'sale') ? 1 : 0;
  },
};

function tell(f: Finding, out: Output): void {
  const at =
    f.place.on === 'page' ? `${f.place.page}${f.place.line ? `:${f.place.line}` : ''}` : f.place.name;
  out.say(`${weightWords[f.weight]}: ${at}: ${f.title}. ${f.meets}`);
  const [first] = f.mends;
  if (first) out.say(`    ${first.do === 'go' ? first.step : first.label}`);
}

/** What rules ask, as far as a folder and a plan can say it: whether goods are known by name, but not what they cost. */
async function subjectOf(site: ReadSite, plan: Plan, out: Output): Promise<Subject> {
  const pages = await writtenPages(site, plan, out);
  return {
    now: Date.now(),
    site: {
      slug: '',
      name: site.reading.name,
      liveUrl: '',
      currency: 'EUR',
      locale: site.reading.lang || 'en',
      country: '',
      shopUrl: plan.shop.url.replace(/\/$/, ''),
      scriptUrl: plan.shop.script ?? new URL('/stall.js', plan.shop.url).href,
      switches: site.reading.moves.how === 'switches',
      isLive: false,
      handIn: '',
      byHand: true,
      shopName: pages.find((p) => p.part === 'shop')?.name ?? '',
      mapped: [],
      policies: [],
    },
    ...walkable(pages),
    shopPages: pages
      .filter((p) => p.part)
      .map(({ part, path, address, name }) => ({ part, path, address, name })),
    placements: new Map(plan.placements.map((p) => [p.id, p])),
    menu: plan.menu,
    repairs: plan.repairs,
    sells: plan.placements.some((p) => p.kind !== 'notice') || plan.shopPages.length > 0,
    goods: {
      all: [],
      shown: [],
      bySlug: new Map(),
      categories: [],
      pathNow: (path) => path,
      chargedBefore: new Map(),
      pictures: new Map(),
    },
    // Only rules that read pages alone are told: nothing is known of goods and till here.
    till: {
      rules: noRules,
      connected: [],
      letters: { waiting: 0, refused: 0, givenUpLately: 0, connected: true },
      countryName: (code) => code,
    },
    look: { proofs: [], drift: 0, picture: '', badgeRoom: Number.POSITIVE_INFINITY },
    live: null,
    seen: new Map(),
  };
}

async function writtenPages(site: ReadSite, plan: Plan, out: Output): Promise<WrittenPage[]> {
  const within = reachIn(site.reading);
  const built = plan.shopPages.length ? await buildShopPages(site, plan) : [];
  const has = (path: string) => site.index.find(path) ?? built.find((b) => b.path === path)?.path;
  const write = (page: ParsedPage, path: PagePath, part: string): WrittenPage => {
    const facts = site.reading.pages.find((p) => p.path === path);
    const placements = plan.placements.filter((p) =>
      part ? reachesShopPages(p.reach, p.pitch.region) : within(p.reach, path),
    );
    const done = computePage(
      page,
      { ...plan, placements },
      contextFor(plan, path, site.reading.lang),
      site.index.find,
    );
    const read = readWritten(page, done.edits, {
      has,
      currency: 'EUR',
      scriptUrl: plan.shop.script ?? '',
      shopUrl: plan.shop.url,
      placed: (id) => placements.find((p) => p.id === id),
    });
    return {
      ...read,
      path,
      address: facts?.address ?? `/${path}`,
      name: facts?.heading || facts?.title || path,
      kind: facts?.kind ?? 'other',
      lang: facts?.lang ?? '',
      chrome: facts?.chrome ?? chooseModel(site.reading.pages)?.chrome ?? 0,
      part,
      menuProblem: done.menuProblem ?? '',
      lost: done.lost.map((l) => ({ id: l.id, why: l.why, best: l.best?.label ?? '' })),
      bytes: done.bytes.length,
      added: 0,
    };
  };
  const pages: WrittenPage[] = [];
  for (const [n, { path }] of site.reading.pages.entries()) {
    pages.push(write(await site.load(path), path, ''));
    out.progress('checking page', n + 1, site.reading.pages.length);
  }
  for (const { path, bytes, part } of built) {
    const parsed = parsePageFile(path, bytes);
    if ('page' in parsed) pages.push(write(parsed.page, path, part));
  }
  return pages;
}
