import { z } from 'zod';
import { escapeHtml } from '../html/escape';
import { inPixels, inSiteRem } from '../look/rem';
import { fail, ok, type Result } from '../result';
import type { Shape } from '../look/shape';
import type { Html } from '../storefront/html';
import type { DrawingShop, GoodsNow } from './drawing';

/** What a placement's HTML may depend on beside its own settings. */
export interface WriteContext {
  readonly placementId: string;
  /** Where widgets ask and their ordinary pages stand: "https://shop.example/withybed". */
  readonly shopUrl: string;
  /** Address of the site's own cart page, relative to the page being written. */
  readonly cartHref: string;
  /**
   * Address of the site's own checkout page, of its shop page and its account page, relative to the page being written; ''
   * where there is none.
   */
  readonly checkoutHref?: string;
  readonly shopHref?: string;
  readonly accountHref?: string;
  /** Path on the owner's own host under which a server that assembles pages finds the shop's fragments. */
  readonly includePath?: string;
  /** Names of products by slug, for text that stands before the script has run. */
  readonly productName: (slug: string) => string | undefined;
  /** The language of the shop's words, as a tag (BCP 47); left out, English. */
  readonly lang?: string | undefined;
  /** What a product or one of its choices costs now, as the shop writes it; nothing where nobody knows. */
  readonly priceNow?: ((slug: string, choice: string) => string | undefined) | undefined;
  /** The site's content width in the shop's rem, for widgets in the main part; nothing elsewhere. */
  readonly contentWidth?: string | undefined;
  /** What a rem of 16 px is in the site's own; left out, it is one. */
  readonly rem?: number | undefined;
  /**
   * Addresses of the site's files as they are reached from anywhere; what is written for any page of any
   * host uses them everywhere.
   */
  readonly absolute?: ((address: string) => string) | undefined;
  readonly anywhere?: boolean;
  /** How the shop's cards are made, for the room they need; left out, as usual. */
  readonly shape?: Shape | undefined;
  /** The goods as they are now, for the room that a list of them needs; nothing where nobody knows. */
  readonly goodsNow?: (Pick<GoodsNow, 'shown' | 'bySlug' | 'pathNow'> & { readonly at: number }) | undefined;
}

/** How one setting is asked for: the settings panel is drawn from these. */
export interface SettingField {
  readonly key: string;
  readonly label: string;
  readonly as:
    | 'goods'
    | 'goods-list'
    | 'goods-choice'
    | 'category'
    | 'text'
    | 'long-text'
    | 'number'
    | 'yes'
    | 'choice'
    | 'parts'
    | 'picture';
  /** For `choice` and `parts`: value and words. */
  readonly options?: readonly (readonly [string, string])[];
  readonly placeholder?: string;
  readonly least?: number;
  readonly most?: number;
  /** Asked only while another setting has one of these values. */
  readonly when?: readonly [key: string, ...values: unknown[]];
}

/** A link that does what the widget does, on an ordinary page. */
export interface OrdinaryLink {
  readonly href: string;
  readonly text: string;
}

/**
 * A widget kind is one table: everything the shelf, the bench's settings, the writers and the checks need to know.
 * Adding a kind is one file like this and one line in index.ts.
 */
interface KindTable<S extends Record<string, unknown>> extends KindName, KindArt {
  /** Where its element is defined: in the first script, in the second, or nowhere, because it is only HTML. */
  readonly script: 'first' | 'more' | 'none';
  readonly settings: z.ZodObject<z.ZodRawShape, z.core.$strip> & z.ZodType<S>;
  /** Where an owner most likely wants it; the bench opens there. */
  readonly usualPlace: 'main' | 'header' | 'side' | 'footer';
  readonly usualReach: 'page' | 'every';
  /** Attributes of its element, as HTML; left out, they are the settings that depart from what is usual, and the ways. */
  readonly attributes?: (settings: S, context: WriteContext) => readonly string[];
  /** What stands in the element until the script has run, in place of the plain link: it keeps the room. */
  readonly inner?: (settings: S, context: WriteContext) => string;
  readonly link: (settings: S, context: WriteContext) => OrdinaryLink;
  readonly fields: readonly SettingField[];
  /** How the server draws it; left out where it is drawn where it stands. */
  readonly draw?: (settings: S, shop: DrawingShop) => Promise<Html>;
  /** Room a frame needs before it has said its own height, in CSS pixels. */
  readonly frameHeight: number;
  /** A few words for slip, orders and takings: "Buy button: Round log basket". */
  readonly describe: (settings: S, productName: WriteContext['productName']) => string;
}

interface KindArt {
  /** What marks it, 12 x 12, in the colour of what is around: the inside of an SVG. */
  readonly sign: string;
  /** How the shelf shows it, 52 x 38, with the classes f and s (filled, stroked), w, w1 and wf (light on it). */
  readonly drawing: string;
}

interface KindName {
  readonly kind: string;
  readonly name: string;
  readonly hint: string;
}

/** What a spelling writes from. */
export interface Writable {
  readonly kind: string;
  readonly element: string;
  readonly attributes: readonly string[];
  readonly link: OrdinaryLink;
  readonly inner?: string;
  readonly frameHeight: number;
  /** Settings that depart from the table's defaults, by their attribute names; for shortcodes, frames and includes. */
  readonly settings: readonly (readonly [string, string])[];
}

/** A kind as the rest of the core sees it: settings come in as data and are checked by the table before use. */
export interface WidgetKind extends KindName, KindArt {
  readonly built: boolean;
  /** "stall-" and the kind; '' for one that is not made yet. */
  readonly element: string;
  readonly script: KindTable<Record<string, unknown>>['script'];
  /**
   * As HTML that works without script. Undefined where the server does not draw it. @throws when the settings do not fit:
   * check them first.
   */
  readonly draw: ((settings: unknown, shop: DrawingShop) => Promise<Html>) | undefined;
  readonly usualPlace: KindTable<Record<string, unknown>>['usualPlace'];
  readonly usualReach: KindTable<Record<string, unknown>>['usualReach'];
  readonly fields: readonly SettingField[];
  readonly checkSettings: (settings: unknown) => Result<Record<string, unknown>>;
  /** Settings from attributes as a person writes them: words for numbers and yes or no, a bare name for yes. */
  readonly fromAttributes: (attributes: ReadonlyMap<string, string>) => Result<Record<string, unknown>>;
  /** Nothing when the settings do not fit the kind. */
  readonly writable: (settings: unknown, context: WriteContext) => Writable | undefined;
  readonly describe: (settings: unknown, productName: WriteContext['productName']) => string;
  /** The settings as a JSON Schema, for documents and forms. */
  readonly schema: () => unknown;
}

export function defineKind<S extends Record<string, unknown>>(table: KindTable<S>): WidgetKind {
  const read = (settings: unknown) => table.settings.safeParse(settings);
  const check = (settings: unknown): Result<Record<string, unknown>> => {
    const parsed = read(settings);
    return parsed.success
      ? ok(parsed.data)
      : fail(parsed.error.issues[0]?.message ?? 'These settings do not fit.');
  };
  const { draw } = table;
  const element = `stall-${table.kind}`;
  return {
    ...table,
    built: true,
    element,
    draw: draw && (async (settings, shop) => draw(table.settings.parse(settings), shop)),
    checkSettings: check,
    fromAttributes(attributes) {
      const out: Record<string, unknown> = {};
      for (const [name, text] of attributes) {
        const key = Object.keys(table.settings.shape).find((k) => attributeName(k) === name);
        if (!key)
          return fail(
            `${table.name} has no setting "${name}". It has: ${Object.keys(table.settings.shape).map(attributeName).join(', ')}.`,
          );
        out[key] = fromText(table.settings.shape[key], text);
      }
      return check(out);
    },
    writable(settings, context) {
      const parsed = read(settings);
      if (!parsed.success) return undefined;
      const own = departing(table.settings, parsed.data);
      const sized = (style: string) =>
        context.anywhere ? inPixels(style) : inSiteRem(style, context.rem ?? 1);
      const inner = table.inner?.(parsed.data, context);
      const attributes =
        table.attributes?.(parsed.data, context) ?? usualAttributes(own, context, inner !== undefined);
      return {
        kind: table.kind,
        element,
        frameHeight: table.frameHeight,
        // A picture of the site is named by the page it is on; in frames, includes and shortcodes by its
        // whole address.
        settings: own.map(([name, value]) => [
          name,
          name === 'picture' ? (context.absolute?.(value) ?? value) : value,
        ]),
        link: table.link(parsed.data, context),
        attributes: attributes.map((a) => (a.startsWith('style=') ? sized(a) : a)),
        ...(inner !== undefined && { inner: inner.replace(/style="[^"]*"/g, sized) }),
      };
    },
    describe(settings, productName) {
      const parsed = read(settings);
      return parsed.success ? table.describe(parsed.data, productName) : table.name;
    },
    schema: () => z.toJSONSchema(table.settings, { io: 'input' }),
  };
}

/** Settings and ways. Where room is kept inside, the element measures its container. */
const usualAttributes = (own: Writable['settings'], c: WriteContext, room: boolean): string[] => [
  ...own.map(([name, value]) => `${name}="${escapeHtml(value)}"`),
  `placement="${c.placementId}"`,
  `shop="${escapeHtml(c.shopUrl)}"`,
  `cart="${escapeHtml(c.cartHref)}"`,
  c.checkoutHref ? `checkout="${escapeHtml(c.checkoutHref)}"` : '',
  c.shopHref ? `page="${escapeHtml(c.shopHref)}"` : '',
  `style="display:block${mainBox(c)}${room ? ';container-type:inline-size' : ''}"`,
];

/**
 * Keeps a widget in the width the site's text has. In a container that spans the window (a percentage of padding is one of
 * the container: the difference to the window is nearly nought there, and made very steep) it gets the edge that text has;
 * in a column of the site's own it fills the column.
 */
export function mainBox({ contentWidth }: Pick<WriteContext, 'contentWidth'>): string {
  if (!contentWidth) return ';width:100%';
  const wide = (most: string) => `clamp(0px,(100% - 100vw + 1.1rem)*999,${most})`;
  return `;box-sizing:border-box;width:100%;max-width:calc(${contentWidth} + 3rem);margin:1.25rem auto;padding:${wide('1.5rem')} ${wide('1.5rem')}`;
}

/** A kind that is on the list and not yet made: named everywhere, placed nowhere. */
export function plannedKind(name: KindName): WidgetKind {
  const no = fail(
    `The widget "${name.name}" is not built yet. Nothing was placed; choose one that is: see the list of widgets.`,
  );
  return {
    ...name,
    built: false,
    element: '',
    script: 'none',
    sign: '',
    drawing: '',
    draw: undefined,
    usualPlace: 'main',
    usualReach: 'page',
    fields: [],
    checkSettings: () => no,
    fromAttributes: () => no,
    writable: () => undefined,
    describe: () => name.name,
    schema: () => ({}),
  };
}

/** "hideWhenEmpty" is written "hide-when-empty". */
export const attributeName = (key: string): string => key.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`);

const yes = new Set(['', 'yes', 'true', 'on', '1']);

function fromText(schema: unknown, text: string): unknown {
  const type = baseType(schema);
  if (type === 'boolean' && yes.has(text.toLowerCase())) return true;
  if (type === 'boolean') return /^(no|false|off|0)$/i.test(text) ? false : text;
  if (type === 'array')
    return text
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean);
  if (type === 'number') return /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : text;
  return text;
}

const yesOrNo = (value: boolean): string => (value ? 'yes' : 'no');

/** The type inside defaults and optionals. */
function baseType(schema: unknown): string {
  let at = schema as { def?: { type: string; innerType?: unknown } };
  while (at.def?.innerType) at = at.def.innerType as typeof at;
  return at.def?.type ?? '';
}

function departing(schema: z.ZodObject, settings: Record<string, unknown>): (readonly [string, string])[] {
  return Object.entries(settings).flatMap(([key, value]) => {
    const field = schema.shape[key] as z.ZodType | undefined;
    const usual = field?.safeParse(undefined);
    if (usual?.success && String(usual.data) === String(value)) return [];
    return [[attributeName(key), typeof value === 'boolean' ? yesOrNo(value) : String(value)] as const];
  });
}
