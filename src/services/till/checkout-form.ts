import { z } from 'zod';
import { fill, stepWordsIn, type StepWords } from '../../core/storefront/words';
import { noRules, type TillRules } from '../../core/till/rules';
import { invalid } from '../errors';
import { notAgreed, type PolicyView } from './policies';
import { addressForm, examplePostcode, isPostcodeOf } from './address';
import { countryCode, countryName } from './countries';

/** What an address needs; each field that is wrong is told by the name of its sentence. */
const need = {
  email: 'needEmail',
  name: 'needName',
  street: 'needStreet',
  country: 'needCountry',
  town: 'needTown',
  postcode: 'needPostcode',
  state: 'needState',
} as const satisfies Record<string, keyof StepWords>;
const tooLong = 'tooLong' satisfies keyof StepWords;
const line = (field: keyof typeof need, least: number, most: number) =>
  z.string(need[field]).trim().min(least, need[field]).max(most, tooLong);
const may = (most: number) => z.string().trim().max(most, tooLong).default('');

export const buyerInput = z.object({
  email: z.email(need.email).max(200, tooLong),
  name: line('name', 1, 120),
  street: line('street', 1, 200),
  town: may(120),
  postcode: may(20),
  state: may(60),
  company: may(120),
  phone: may(40),
  /** ISO 3166-1 alpha-2; names in English are understood too. */
  country: line('country', 2, 80).transform((c, ctx) => {
    const code = countryCode(c);
    if (!code) ctx.addIssue({ code: 'custom', message: need.country });
    return code ?? '';
  }),
});

export const checkoutInput = buyerInput.extend({
  /** The total the shopper saw on the button, in minor units: no other amount is ever charged. */
  total: z.coerce.number().int(),
  /** The way of shipping; the first offered while none is chosen. */
  way: z.string().max(40).default(''),
  /** The way to pay; the first offered while none is chosen. */
  payBy: z.string().max(40).default(''),
  note: may(500),
  remind: z.string().max(5).default('').transform(Boolean),
  /** Policies that were ticked, with the version that was read: "terms" to its SHA-256. */
  agreed: z.record(z.string(), z.string()).default({}),
});
type Parsed = z.output<typeof checkoutInput>;
type Optional = 'way' | 'payBy' | 'note' | 'remind' | 'agreed' | 'state' | 'company' | 'phone';
export type CheckoutInput = Omit<Parsed, Optional> & Partial<Pick<Parsed, Optional>>;

/** Fields of a form; ticked policies are fields of their own, `agree-ID`. */
const withPolicies = (fields: unknown): unknown => {
  if (typeof fields !== 'object' || fields === null) return fields;
  const agreed = Object.entries(fields).flatMap(([name, value]) =>
    name.startsWith('agree-') && typeof value === 'string' ? [[name.slice(6), value]] : [],
  );
  return { ...fields, agreed: Object.fromEntries(agreed) };
};

/** What the country of an address asks for beside what every address has. */
function addressFaults(
  b: Readonly<Record<'country' | 'town' | 'state' | 'postcode', string>>,
  w: StepWords,
  lang: string,
): Record<string, string> {
  const form = addressForm(b.country);
  const faults: Record<string, string> = {};
  for (const part of form.needs) if (!b[part]) faults[part] = w[need[part]];
  if (form.states.length && b.state && !form.states.some((s) => s.code === b.state))
    faults.state = w.needState;
  if (b.postcode && !isPostcodeOf(b.country, b.postcode)) {
    const example = examplePostcode[b.country];
    faults.postcode = [
      fill(w.badPostcode, { x: countryName(b.country, lang) }),
      example ? fill(w.postcodeLike, { n: example }) : '',
    ]
      .filter(Boolean)
      .join(' ');
  }
  return faults;
}

/** Checks a checkout form; every field in error has its own sentence, in the shopper's language. */
export function parseCheckout(
  input: unknown,
  w: StepWords = stepWordsIn('en'),
  rules: TillRules = noRules,
  lang = 'en',
  policies: readonly PolicyView[] = [],
): CheckoutInput {
  const form = withPolicies(input);
  const parsed = checkoutInput.safeParse(form);
  const fields: Record<string, string> = notAgreed(
    policies,
    z.object({ agreed: z.record(z.string(), z.string()) }).safeParse(form).data?.agreed ?? {},
    w,
  );
  if (!parsed.success) {
    for (const issue of parsed.error.issues)
      fields[String(issue.path[0])] ??= w[issue.message as keyof StepWords] ?? issue.message;
    const typed = (name: string): string =>
      typeof input === 'object' &&
      input !== null &&
      typeof (input as Record<string, unknown>)[name] === 'string'
        ? String((input as Record<string, unknown>)[name]).trim()
        : '';
    const country = countryCode(typed('country')) ?? '';
    // All that is wrong is told at once.
    throw invalid('Some fields need another look.', {
      fields: {
        ...addressFaults(
          { country, town: typed('town'), state: typed('state'), postcode: typed('postcode') },
          w,
          lang,
        ),
        ...fields,
      },
    });
  }
  Object.assign(fields, addressFaults(parsed.data, w, lang));
  if (rules.checkout.phone === 'must' && !parsed.data.phone) fields.phone = w.needPhone;
  if (Object.keys(fields).length) throw invalid('Some fields need another look.', { fields });
  return parsed.data;
}
