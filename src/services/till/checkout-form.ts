import { z } from 'zod';
import { count, fill, stepWordsIn, type StepText, type StepWords } from '../../core/languages/languages';
import { type AddressAsked, wholeAddress } from '../../core/till/address-asked';
import { noRules, type TillRules } from '../../core/till/rules';
import { invalid } from '../errors';
import { notAgreed, type PolicyView } from './policies';
import { addressForm, examplePostcode, isPostcodeOf } from '../rules/address';
import { countryCode, countryName } from '../rules/countries';

/** What an address needs; each field that is wrong is told by the name of its sentence. */
const need = {
  email: 'needEmail',
  name: 'needName',
  street: 'needStreet',
  country: 'needCountry',
  town: 'needTown',
  postcode: 'needPostcode',
  state: 'needState',
} as const satisfies Record<string, StepText>;
const tooLong = 'tooLong' satisfies StepText;
const line = (field: keyof typeof need, least: number, most: number) =>
  z.string(need[field]).trim().min(least, need[field]).max(most, tooLong);
const may = (most: number) => z.string().trim().max(most, tooLong).default('');

export const buyerInput = z.object({
  email: z.email(need.email).max(200, tooLong),
  name: line('name', 1, 120),
  street: may(200),
  town: may(120),
  postcode: may(20),
  state: may(60),
  company: may(120),
  phone: may(40),
  /** ISO 3166-1 alpha-2; names in English are understood too. */
  country: may(80).transform((c, ctx) => {
    const code = c ? countryCode(c) : '';
    if (code === undefined) ctx.addIssue({ code: 'custom', message: need.country });
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

/** What is missing or wrong in an address, by what has to be asked and what its country needs. */
function addressFaults(
  b: Readonly<Record<'street' | 'country' | 'town' | 'state' | 'postcode', string>>,
  asked: AddressAsked,
  w: StepWords,
  lang: string,
): Record<string, string> {
  const form = addressForm(b.country);
  const wanted = [
    ...(asked.country ? (['country'] as const) : []),
    ...(asked.whole ? (['street', ...form.needs] as const) : []),
    ...(!asked.whole && asked.state ? (['state'] as const) : []),
  ];
  const faults: Record<string, string> = {};
  for (const part of wanted) if (!b[part]) faults[part] = w[need[part]];
  if (form.states.length && b.state && !form.states.some((s) => s.code === b.state))
    faults.state = w.needState;
  if (b.postcode && !isPostcodeOf(b.country, b.postcode)) {
    const example = examplePostcode[b.country];
    const wrong = fill(w.badPostcode, { x: countryName(b.country, lang) });
    faults.postcode = example ? `${wrong} ${fill(w.postcodeLike, { n: example })}` : wrong;
  }
  return faults;
}

/** How a form is checked: in whose language, by which rules and texts, and what has to be asked of where the buyer is. */
export interface CheckoutFormRules {
  readonly words?: StepWords;
  readonly rules?: TillRules;
  readonly lang?: string;
  readonly policies?: readonly PolicyView[];
  readonly asked?: AddressAsked;
}

/** Checks a checkout form. @throws Refusal with all faults at once: a sentence to each field, in the shopper's language. */
export function parseCheckout(
  input: unknown,
  {
    words: w = stepWordsIn('en'),
    rules = noRules,
    lang = 'en',
    policies = [],
    asked = wholeAddress,
  }: CheckoutFormRules = {},
): CheckoutInput {
  const form = withPolicies(input);
  const parsed = checkoutInput.safeParse(form);
  const typed = typedIn(input);
  const faults: Record<string, string> = {
    ...notAgreed(
      policies,
      z.object({ agreed: z.record(z.string(), z.string()) }).safeParse(form).data?.agreed ?? {},
      w,
    ),
    ...addressFaults(
      {
        country: parsed.data?.country ?? countryCode(typed('country')) ?? '',
        street: typed('street'),
        town: typed('town'),
        state: typed('state'),
        postcode: typed('postcode'),
      },
      asked,
      w,
      lang,
    ),
    ...(rules.checkout.phone === 'must' && !typed('phone') && { phone: w.needPhone }),
  };
  for (const issue of parsed.error?.issues ?? []) {
    faults[String(issue.path[0])] = w[issue.message as StepText] ?? issue.message;
  }
  if (!parsed.success || Object.keys(faults).length)
    throw invalid(count(w, w.someFields, Object.keys(faults).length), { fields: faults });
  return parsed.data;
}

/** What stands in a field of a form, without the blanks around it; '' where it has no such text. */
function typedIn(input: unknown): (name: string) => string {
  const fields = z.record(z.string(), z.unknown()).safeParse(input).data ?? {};
  return (name) => {
    const value = fields[name];
    return typeof value === 'string' ? value.trim() : '';
  };
}
