import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import type { Finding, Mend } from '../../core/checks/finding';
import { changeBetween } from '../../core/change';
import type { Decision } from '../../core/look/plan';
import type { MenuChange } from '../../core/placement/menu-change';
import { canStand } from '../../core/placement/place';
import { type Pitch, type PitchAddress, edgePitch } from '../../core/site/pitch';
import type { Landmark } from '../../core/site/regions';
import type { ParsedPage } from '../../core/site/read-page';
import { placements as placementRows } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, isRefusal, missing } from '../errors';
import { saveProduct } from '../goods/goods';
import { renderPage, rendering } from '../publishing/render';
import { answerDrift, changeLook } from '../sites/look-changes';
import { setMenuChanges } from '../sites/menus';
import { planMenu } from '../sites/plan-selling';
import { readAgain } from '../sites/newer';
import { toCartSpot } from '../sites/cart-spot';
import { change, place, takeAway } from '../sites/placing';
import { addRepair } from '../sites/repairs';
import { loadPage, loadSite, type Site } from '../sites/site';
import { draftState } from '../sites/state';
import { checker } from './in-thread';
import { putBack } from './live';

/** A mend that is asked for: of which finding, and which of those it offers. */
export interface MendAsked {
  readonly key: string;
  readonly n: number;
  /** What stood on the button: where it would do another thing by now, it does nothing. */
  readonly label?: string | undefined;
}

export interface MendReport {
  readonly done: readonly string[];
  /** What could not be done, each with why. */
  readonly refused: readonly string[];
}

/**
 * Makes mends of what was found last: ordinary changes, each with its line on the slip. A mend is only taken from what the checks
 * themselves offer. One that is refused does not stop the others.
 */
export async function mend(
  ctx: Ctx,
  site: Site,
  asked: readonly MendAsked[],
  by: string,
): Promise<MendReport> {
  const { findings } = await checker(ctx).run(site.row.id).done;
  const known = new Map(findings.map((f) => [f.key, f]));
  const wanted = asked.flatMap(({ key, n, label }): [Finding, Mend][] => {
    const finding = known.get(key);
    const one = finding?.mends[n];
    return finding && one && (label === undefined || label === one.label) ? [[finding, one]] : [];
  });
  if (wanted.length === 0)
    throw missing('It is not as it was shown: it was mended or changed meanwhile. Look at it again.');
  const done: string[] = [];
  const refused: string[] = [];
  // Carts of several pages are one placement, one line on the slip.
  const carts = wanted.flatMap(([, m]) => (m.do === 'cart' ? m.pages : []));
  const works: [string, () => Promise<unknown>][] = [
    ...(carts.length
      ? [
          [
            `Cart on ${carts.length === 1 ? 'one page' : `${carts.length} pages`}`,
            () => putCarts(ctx, site, [...new Set(carts)]),
          ] as [string, () => Promise<unknown>],
        ]
      : []),
    ...wanted.flatMap(([f, m]): [string, () => Promise<unknown>][] =>
      m.do === 'cart' ? [] : [[`${f.place.name}: ${m.label}`, () => one(ctx, site.row.id, m, by, f)]],
    ),
  ];
  for (const [name, work] of works)
    try {
      await work();
      done.push(name);
    } catch (error) {
      if (!isRefusal(error)) throw error;
      refused.push(`${name}: ${error.message}`);
    }
  if (done.length === 0) throw conflict(refused.join(' '));
  return { done, refused };
}

/** What is added without a word about where goes where "Add selling" puts it: not every menu takes an item at its end. */
async function whereItFits(
  ctx: Ctx,
  site: Site,
  changes: readonly MenuChange[],
): Promise<readonly MenuChange[]> {
  const [only, ...more] = changes;
  if (only?.do !== 'add' || more.length > 0) return changes;
  if (only.at.under.length > 0 || only.at.before || only.at.after) return changes;
  return [(await planMenu(ctx, site, only.label, only.to)).change ?? only];
}

/** One mend, on the site as it is by now: the ones before it may have changed it. */
async function one(
  ctx: Ctx,
  siteId: string,
  m: Exclude<Mend, { do: 'cart' }>,
  by: string,
  f: Finding,
): Promise<unknown> {
  const site = await loadSite(ctx, { id: siteId });
  switch (m.do) {
    case 'menu':
      return setMenuChanges(ctx, site, [...site.row.menu, ...(await whereItFits(ctx, site, m.changes))]);
    case 'take-away':
      return takeAway(ctx, site, m.placement);
    case 'settings':
      return change(ctx, site, m.placement, { settings: m.settings });
    case 'spot':
      return toCartSpot(ctx, site, m);
    case 'best-pitch':
      return toBestPitch(ctx, site, m.placement, m.page);
    case 'repair':
      return addRepair(ctx, site, m.repair);
    case 'goods':
      return saveProduct(ctx, site, m.id, { fields: m.set }, by);
    case 'look':
      return forget(ctx, site, m.forget);
    case 'follow':
      return answerDrift(ctx, site, { do: 'follow', sources: 'all' });
    case 'take-over':
      return readAgain(ctx, site);
    case 'put-back':
      return putBack(ctx, site, f.place.on === 'page' ? f.place.page : '');
    case 'go':
      throw conflict(m.step);
  }
}

async function forget(ctx: Ctx, site: Site, names: readonly string[]): Promise<void> {
  const before: Readonly<Record<string, Decision>> = site.row.look?.decisions ?? {};
  const after = Object.fromEntries(Object.entries(before).filter(([name]) => !names.includes(name)));
  await changeLook(ctx, site, changeBetween(before, after));
}

/** The spot that is likeliest for a placement which found none, on one page. */
async function toBestPitch(ctx: Ctx, site: Site, id: string, page: string): Promise<void> {
  const r = await rendering(ctx, site, await draftState(ctx, site));
  const out = await renderPage(ctx, r, page);
  const best = out.lost.find((l) => l.id === id)?.best;
  if (!best) throw conflict('No likely place is known for it any more. Choose one on the bench.');
  await change(ctx, site, id, { pitch: best.pitch, pitchLabel: best.label });
}

/** Where a cart may stand: at the end of the header; where there is none it floats, wherever it is written. */
const cartPlaces: readonly (readonly [Landmark, 'end', floats: boolean])[] = [
  ['header', 'end', false],
  ['footer', 'end', true],
  ['menu', 'end', true],
  ['main', 'end', true],
];

function cartSpot(page: ParsedPage): { pitch: Pitch; floats: boolean } | undefined {
  for (const [region, side, floats] of cartPlaces) {
    const pitch = edgePitch(page, region, side);
    if (pitch && canStand(page, pitch.address)) return { pitch, floats };
  }
  return undefined;
}

/** A cart on each of some pages: the one that stands on others where the same place is there, else one of their own. */
async function putCarts(ctx: Ctx, site: Site, pages: readonly string[]): Promise<void> {
  const groups = new Map<string, { spot: { pitch: Pitch; floats: boolean }; pages: string[] }>();
  const without: string[] = [];
  for (const path of pages) {
    const spot = cartSpot(await loadPage(ctx, site, path));
    if (!spot) without.push(path);
    else {
      const key = placeKey(spot.pitch.address, spot.floats);
      const group = groups.get(key) ?? { spot, pages: [] };
      group.pages.push(path);
      groups.set(key, group);
    }
  }
  if (groups.size === 0)
    throw conflict('No place for a cart was surely found on these pages. Choose one on the bench.');
  const { placements } = await draftState(ctx, site);
  for (const { spot, pages: own } of groups.values()) {
    const widened = placements.find(
      (p) =>
        p.kind === 'cart' &&
        p.reach.to === 'pages' &&
        placeKey(p.pitch, p.settings.floats === true) === placeKey(spot.pitch.address, spot.floats),
    );
    if (widened?.reach.to === 'pages') {
      await change(ctx, site, widened.id, {
        reach: { to: 'pages', pages: [...new Set([...widened.reach.pages, ...own])] },
      });
      continue;
    }
    await place(ctx, site, {
      kind: 'cart',
      settings: spot.floats ? { floats: true } : {},
      pitch: spot.pitch.address,
      pitchLabel: spot.pitch.label,
      reach:
        own.length === site.reading.pages.length ? { to: 'every', except: [] } : { to: 'pages', pages: own },
    });
  }
  await dropLost(ctx, site, pages);
}

const placeKey = (p: PitchAddress, floats: boolean): string => `${p.region} ${p.side} ${floats}`;

/** A cart for every page that found no place on these is meant for the others from now on, or each would be told of for ever. */
async function dropLost(ctx: Ctx, site: Site, pages: readonly string[]): Promise<void> {
  const state = await draftState(ctx, await loadSite(ctx, { id: site.row.id }));
  const r = await rendering(ctx, site, state);
  for (const p of state.placements) {
    if (p.kind !== 'cart' || p.reach.to !== 'every') continue;
    const lost: string[] = [];
    for (const path of pages)
      if ((await renderPage(ctx, r, path)).lost.some((l) => l.id === p.id)) lost.push(path);
    if (lost.length === 0) continue;
    await ctx.store.write((tx) =>
      tx
        .update(placementRows)
        .set({ reach: { to: 'every', except: [...(p.reach.to === 'every' ? p.reach.except : []), ...lost] } })
        .where(and(eq(placementRows.id, p.id), eq(placementRows.siteId, site.row.id))),
    );
  }
}

const mendsAsked = z.object({
  mends: z
    .array(
      z.object({
        key: z.string().max(200),
        n: z.number().int().min(0).max(20),
        label: z.string().max(500).optional(),
      }),
    )
    .min(1)
    .max(3_000),
});

export function parseMends(asked: unknown): MendAsked[] {
  const parsed = mendsAsked.safeParse(asked);
  if (!parsed.success) throw invalid('Say which mends are to be made.');
  return parsed.data.mends;
}
