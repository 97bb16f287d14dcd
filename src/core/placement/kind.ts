import type { ZodType } from 'zod';
import { fail, ok, type Result } from '../result';

/** What a placement's HTML may depend on beside its own settings. */
export interface WriteContext {
  readonly placementId: string;
  /** Where widgets ask and their ordinary pages stand: "https://shop.example/withybed". */
  readonly shopUrl: string;
  /** Address of the site's own cart page, relative to the page being written. */
  readonly cartHref: string;
  /** Names of products by slug, for text that stands before the script has run. */
  readonly productName: (slug: string) => string | undefined;
}

/**
 * A widget kind is one table: everything the shelf, the bench's settings, the writer and the checks need to know.
 * Adding a kind is one file like this and one line in index.ts.
 */
interface KindTable<S> {
  readonly kind: string;
  readonly name: string;
  readonly hint: string;
  readonly element: `stall-${string}`;
  readonly settings: ZodType<S>;
  /** Where an owner most likely wants it; the bench opens there. */
  readonly usualPlace: 'main' | 'header';
  readonly usualReach: 'page' | 'every';
  /** The element spelling: ASCII-safe HTML with a link inside that works without script. */
  readonly writeElement: (settings: S, context: WriteContext) => string;
  /** A few words for slip, orders and takings: "Buy button: Round log basket". */
  readonly describe: (settings: S, productName: WriteContext['productName']) => string;
}

/** A kind as the rest of the core sees it: settings come in as data and are checked by the table before use. */
export interface WidgetKind extends Omit<KindTable<unknown>, 'settings' | 'writeElement' | 'describe'> {
  readonly checkSettings: (settings: unknown) => Result<Record<string, unknown>>;
  /** Nothing when the settings do not fit the kind. */
  readonly writeElement: (settings: unknown, context: WriteContext) => string | undefined;
  readonly describe: (settings: unknown, productName: WriteContext['productName']) => string;
}

export function defineKind<S extends Record<string, unknown>>(table: KindTable<S>): WidgetKind {
  const read = (settings: unknown) => table.settings.safeParse(settings);
  return {
    ...table,
    checkSettings(settings) {
      const parsed = read(settings);
      return parsed.success ? ok(parsed.data) : fail(parsed.error.issues[0]?.message ?? 'These settings do not fit.');
    },
    writeElement(settings, context) {
      const parsed = read(settings);
      return parsed.success ? table.writeElement(parsed.data, context) : undefined;
    },
    describe(settings, productName) {
      const parsed = read(settings);
      return parsed.success ? table.describe(parsed.data, productName) : table.name;
    },
  };
}
