import { stepWordsIn, wordsIn } from '../../core/languages/languages';
import type { DrawingShop } from '../../core/placement/drawing';
import { type Look, remOf } from '../../core/look/look';
import { cleanShape, departure, type Shape, widgetShapes } from '../../core/look/shape';
import { kindOf } from '../../core/placement/kinds';
import { lookupSettings } from '../../core/placement/kinds/lookup';
import type { Html } from '../../core/storefront/html';
import { lookupFragment, type LookupView } from '../../core/storefront/lookup';
import { noState } from '../../core/storefront/shop-front';
import type { ShopState } from '../../core/storefront/views';
import type { Ctx } from '../context';
import { invalid, Refusal } from '../errors';
import { freeOfProducts } from '../goods/available';
import { type Catalogue, catalogueOf } from '../goods/catalogue';
import { lookUpOrder } from '../till/orders';
import type { Site } from '../sites/site';
import { briefOf } from './account';
import { releaseNotes, reviewsView } from './after';
import { shopUrl } from '../sites/addresses';
import { productPageView, productViews } from './views';

/** What a widget was asked to be: settings by their attribute names, and for a shop front what the shopper asked of it. */
export interface WidgetCall {
  readonly kind: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly state?: ShopState;
  /** The placement it stands for, kept with what is bought through it. */
  readonly via?: string;
  /** The shape of the shop that it is drawn in. */
  readonly shape?: Shape;
}

/** What a widget departs from the shop's shape in, as declarations; '' where it does not. */
export function ownDeclarations(attributes: ReadonlyMap<string, string>, look: Look): string {
  const own = widgetShapes.flatMap((name) => {
    const value = cleanShape(name, attributes.get(name));
    return value === undefined ? [] : [[name, value] as const];
  });
  return own.length ? departure(look.shape, Object.fromEntries(own), remOf(look)) : '';
}

/**
 * A widget as HTML that works without script: elements put it into their shadow root, frames and includes send it as it is.
 * @throws Refusal when there is no such widget, or its settings do not fit.
 */
export async function drawWidget(ctx: Ctx, site: Site, call: WidgetCall): Promise<Html> {
  const kind = kindOf(call.kind);
  if (!kind?.draw) throw invalid(`There is no widget called "${call.kind}" to draw.`);
  const own = new Map(call.attributes);
  own.delete('via');
  const settings = kind.fromAttributes(own);
  if (!settings.ok) throw invalid(settings.error);
  const shop = shopFor(ctx, site, call, String(settings.value.lang || site.row.locale));
  return kind.draw(settings.value, { ...shop, ...(call.shape && { shape: call.shape }) });
}

/** Whether the server draws a kind. */
export const isDrawn = (kind: string): boolean => kindOf(kind)?.draw !== undefined;

/** What a widget may ask while it is drawn in a language. */
function shopFor(ctx: Ctx, site: Site, call: WidgetCall, lang: string): DrawingShop {
  const w = wordsIn(lang);
  const via = call.via ?? '';
  let known: Promise<Catalogue> | undefined;
  const goods = () => (known ??= catalogueOf(ctx, site.row.id, site.row));
  return {
    w,
    steps: stepWordsIn(lang),
    lang,
    locale: site.row.locale,
    currency: site.row.currency,
    at: ctx.now().getTime(),
    via,
    state: call.state ?? noState,
    listHref: `${shopUrl(ctx, site)}/goods`,
    lookupHref: lookupHref(ctx, site),
    goods,
    views: (products) => productViews(ctx, site, products, w, via),
    productPage: (slug, price) => productPageView(ctx, site, slug, via, w, { price }).catch(goneIs(null)),
    free: async (products) => freeOfProducts(ctx, site.row.id, products, await goods()),
    reviews: (product, how) => reviewsView(ctx, site, product, lang, { ...how, via }),
    releases: (product, limit) => releaseNotes(product, lang, limit),
  };
}

const lookupHref = (ctx: Ctx, site: Site): string => `${shopUrl(ctx, site)}/lookup`;

/** A product that is gone leaves the list in its place; anything else that fails is a failure. */
const goneIs =
  <T>(instead: T) =>
  (error: unknown): T => {
    if (error instanceof Refusal) return instead;
    throw error;
  };

/**
 * How an order stands, for whoever knows its number and address: both stand on a parcel. Files, papers and
 * the way to a review are worth
 * something, and go by a letter to the address on the order.
 */
async function looked(
  ctx: Ctx,
  site: Site,
  found: Parameters<typeof briefOf>[1] | undefined,
  lang: string,
): Promise<Pick<LookupView, 'order' | 'more'>> {
  if (!found) return { order: null, more: '' };
  const brief = await briefOf(ctx, found, site, lang);
  const worth = brief.files !== '' || brief.lines.some((l) => l.review !== '');
  return {
    order: { ...brief, files: '', lines: brief.lines.map((l) => ({ ...l, review: '' })) },
    more: worth ? `${shopUrl(ctx, site)}/account` : '',
  };
}

/** The answer to an order lookup: the order, or that there is none. */
export async function lookupAnswer(
  ctx: Ctx,
  site: Site,
  fields: { number: string; email: string },
  attributes: ReadonlyMap<string, string>,
): Promise<{ html: Html; found: boolean }> {
  const settings = kindOf('lookup')?.fromAttributes(attributes);
  const s = lookupSettings.parse(settings?.ok ? settings.value : {});
  const lang = s.lang || site.row.locale;
  const w = wordsIn(lang);
  const found = await lookUpOrder(ctx, site.row.id, fields.number, fields.email);
  return {
    found: !!found,
    html: lookupFragment(
      {
        ...s,
        action: lookupHref(ctx, site),
        ...fields,
        problem: found ? '' : w.noOrder,
        ...(await looked(ctx, site, found, lang)),
      },
      w,
      stepWordsIn(lang),
    ),
  };
}
