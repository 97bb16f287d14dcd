/**
 * Formats of languages, made once: making one takes longer than working out a whole cart (it was a fifth of a cart's page).
 * Locales are a shop's own or a shopper's; there are few, and a stranger who asks for many is not remembered.
 */
const MOST = 400;

function remembered<T>(
  make: (locale: string, options: object) => T,
): (locale: string, options?: object) => T {
  const known = new Map<string, T>();
  return (locale, options = {}) => {
    const key = `${locale} ${JSON.stringify(options)}`;
    const found = known.get(key);
    if (found) return found;
    const made = make(locale, options);
    if (known.size < MOST) known.set(key, made);
    return made;
  };
}

/** @throws RangeError for what is no locale. */
export const dateFormat: (locale: string, options: Intl.DateTimeFormatOptions) => Intl.DateTimeFormat =
  remembered((locale, options) => new Intl.DateTimeFormat(locale, options));

/** @throws RangeError for what is no locale. */
export const numberFormat: (locale: string, options?: Intl.NumberFormatOptions) => Intl.NumberFormat =
  remembered((locale, options) => new Intl.NumberFormat(locale, options));

/** Names of countries in a language. @throws RangeError for what is no locale. */
export const regionNames: (locale: string) => Intl.DisplayNames = remembered(
  (locale) => new Intl.DisplayNames(locale, { type: 'region' }),
);
