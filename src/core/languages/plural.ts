/** A text with a number in it, in each form that its language has (CLDR plural categories). */
export type Plural = { readonly other: string } & Readonly<Partial<Record<Intl.LDMLPluralRule, string>>>;

const rules = new Map<string, Intl.PluralRules>();

function rulesOf(lang: string): Intl.PluralRules {
  const known = rules.get(lang);
  if (known) return known;
  const made = new Intl.PluralRules(lang);
  rules.set(lang, made);
  return made;
}

/** The form that a language uses for a number, with its gap `{n}` still open. */
export const formFor = (text: Plural, n: number, lang: string): string =>
  text[rulesOf(lang).select(n)] ?? text.other;
