import { asciiHtml, escapeHtml } from '../../core/html/escape';
import { lookCss, lookRules, shapeIn } from '../../core/look/look';
import { kindOf } from '../../core/placement/kinds';
import type { Writable } from '../../core/placement/kind';
import { scriptTag } from '../../core/placement/place';
import { writeSpelling } from '../../core/placement/spelling';
import { addForm } from '../../core/storefront/buying';
import { html } from '../../core/storefront/html';
import { readOwnCss } from '../../core/storefront/own-css';
import { fill, wordsIn } from '../../core/languages/languages';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import { catalogueOf } from '../goods/catalogue';
import { frameFonts } from '../sites/frame-fonts';
import { lookFor } from '../sites/look';
import type { Site } from '../sites/site';
import { shopUrl } from '../sites/addresses';
import { productViews } from './views';
import { drawWidget, isDrawn, ownDeclarations } from './widgets';

/** A widget asked for from outside a page of ours: by a frame, or by a server that assembles pages. */
export interface Asked {
  readonly kind: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly via: string;
  /** The key of the draft that it stands in: it wears the draft's look. */
  readonly draft?: string;
}

async function writableOf(ctx: Ctx, site: Site, { kind, attributes, via }: Asked): Promise<Writable> {
  const table = kindOf(kind);
  if (!table?.built) throw invalid(`There is no widget called "${kind}".`);
  const settings = table.fromAttributes(attributes);
  if (!settings.ok) throw invalid(settings.error);
  const names = (await catalogueOf(ctx, site.row.id)).bySlug;
  const writable = table.writable(settings.value, {
    placementId: via,
    shopUrl: shopUrl(ctx, site),
    cartHref: '',
    productName: (slug) => names.get(slug)?.name,
    lang: site.row.locale,
  });
  if (!writable) throw invalid('These settings do not fit.');
  return writable;
}

const context = (ctx: Ctx, site: Site, via: string) => ({
  placementId: via,
  shopUrl: shopUrl(ctx, site),
  cartHref: '',
  productName: () => undefined,
  lang: site.row.locale,
});

/** A page that is one widget, for a frame: it wears the site's look, tells its height, and its links leave the frame. */
export async function framePage(ctx: Ctx, site: Site, asked: Asked): Promise<string> {
  const writable = await writableOf(ctx, site, asked);
  const look = await lookFor(ctx, site, asked.draft);
  const { css: fonts } = await frameFonts(ctx, site);
  const script = scriptTag({
    script: `${ctx.addresses.shop}/stall.js`,
    shop: shopUrl(ctx, site),
    cart: '',
    checkout: '',
    page: '',
  }).replace(
    '<script ',
    `<script data-frame${asked.draft === site.row.draftKey ? ` data-draft="${asked.draft}"` : ''} `,
  );
  return asciiHtml(`<!doctype html>
<html lang="${escapeHtml(site.row.locale)}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex"><title>${escapeHtml(writable.link.text)}</title><base target="_top">
<style>${fonts}${lookRules({ ...look, root: 16 }, ':root')}html,body{margin:0;background:transparent;color:var(--stall-ink);font-family:var(--stall-font);font-size:${Number((look.size / 16).toFixed(4))}rem;line-height:1.5}body{padding:2px}</style></head>
<body>${writeSpelling('element', writable, context(ctx, site, asked.via))}${script}</body></html>
`);
}

/** A widget as ready HTML, for includes: forms and links that work without script, the style sheet beside it. */
export async function fragmentHtml(ctx: Ctx, site: Site, asked: Asked): Promise<string> {
  const worn = await lookFor(ctx, site, asked.draft);
  const look = [lookCss(worn), ownDeclarations(asked.attributes, worn)].filter(Boolean).join(';');
  const body = isDrawn(asked.kind)
    ? (await drawWidget(ctx, site, { ...asked, shape: shapeIn(worn) })).text
    : await small(ctx, site, asked);
  return asciiHtml(
    `<div class="stall" data-stall-fragment="${escapeHtml(asked.kind)}" style="${look}"><link rel="stylesheet" href="${ctx.addresses.shop}/stall.css">${ownCss(worn.css)}${body}</div>`,
  );
}

const ownCss = (text: string): string => {
  const { onPages } = readOwnCss(text);
  return onPages && `<style>${onPages}</style>`;
};

/** Buttons as forms. The cart knows its count only by script; without one it is a link. */
async function small(ctx: Ctx, site: Site, asked: Asked): Promise<string> {
  const writable = await writableOf(ctx, site, asked);
  if (asked.kind !== 'buy')
    return (
      writeSpelling('element', writable, context(ctx, site, asked.via)) +
      scriptTag({
        script: `${ctx.addresses.shop}/stall.js`,
        shop: shopUrl(ctx, site),
        cart: '',
        checkout: '',
        page: '',
      })
    );
  const w = wordsIn(asked.attributes.get('lang') ?? site.row.locale);
  const product = (await catalogueOf(ctx, site.row.id)).bySlug.get(asked.attributes.get('goods') ?? '');
  const [view] = product ? await productViews(ctx, site, [product], w, asked.via) : [];
  if (!view) return html`<p class="stall-muted">${w.gone}</p>`.text;
  const text = asked.attributes.get('text') || fill(w.buy, { x: view.name });
  const form = addForm(view, {
    ...w,
    add: asked.attributes.get('show-price') === 'no' || view.open ? text : `${text} \u00b7 ${view.price}`,
  });
  const picture = asked.attributes.get('picture');
  if (form && picture && /^https?:\/\//.test(picture))
    return form.text
      .replace(/ aria-label="[^"]*"/, '')
      .replace(
        /<button class="stall-button"[^>]*>[\s\S]*?<\/button>/,
        () => html`<button class="stall-pictured"><img src="${picture}" alt="${text}"></button>`.text,
      );
  return form
    ? form.text.replace(/ aria-label="[^"]*"/, '')
    : html`<p class="stall-note">${view.name}: ${view.partGone ? w.notNow : w.soldOut}</p>`.text;
}
