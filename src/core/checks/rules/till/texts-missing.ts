import { inTill, list, openTill, ownPages, type Rule } from '../../rule';
import type { Subject } from '../../subject';

/** Member states of the European Union (ISO 3166-1), 2026; from memory. */
const union = new Set(
  'AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IT LT LU LV MT NL PL PT RO SE SI SK'.split(' '),
);
/** The European Economic Area, and the United Kingdom, where the same texts are asked for by laws of their own. */
const alike = new Set([...union, 'NO', 'IS', 'LI', 'GB']);

interface Wanted {
  readonly name: string;
  readonly in: (country: string) => boolean;
  /** What such pages are called. */
  readonly words: RegExp;
  /** The law that asks for it. */
  readonly law: string;
}

/**
 * Texts that a shop has to have by the country it is in: Directive 2000/31/EC, Article 5 (who it is); Directive 2011/83/EU, Article 6 (terms
 * and withdrawal); Regulation (EU) 2016/679, Article 13 (privacy); in the United Kingdom their successors.
 */
const wanted: readonly Wanted[] = [
  {
    name: 'who you are (imprint)',
    in: (c) => alike.has(c),
    words:
      /(?<!\p{L})(?:imprint|impressum|legal notice|mentions l|aviso legal|note legali|colofon|about us|who we are|contact|kontakt|contatti|contacto)/iu,
    law: 'Directive 2000/31/EC, 5',
  },
  {
    name: 'privacy',
    in: (c) => alike.has(c) || c === 'CH',
    words:
      /(?<!\p{L})(?:privacy|datenschutz|confidentialit|privacidad|protecci[oó]n de datos|personuppgift|personvern|privatliv)/iu,
    law: 'Regulation (EU) 2016/679, 13',
  },
  {
    name: 'withdrawal and returns',
    in: (c) => alike.has(c),
    words:
      /(?<!\p{L})(?:withdraw|returns?|refund|cancell|widerruf|r[uü]ck|r[eé]tractation|retours?|desistimiento|devoluci|recesso|resi\b|herroep|[aå]ngerr?)/iu,
    law: 'Directive 2011/83/EU, 6',
  },
  {
    name: 'terms',
    in: (c) => alike.has(c),
    words:
      /(?<!\p{L})(?:terms|conditions|agb\b|gesch[aä]ftsbedingungen|conditions g[eé]n|cgv|condiciones|condizioni|voorwaarden|villkor|vilk[aå]r)/iu,
    law: 'Directive 2011/83/EU, 6',
  },
];

const has = (s: Subject, words: RegExp): boolean =>
  s.till.rules.checkout.policies.some((p) => words.test(p.name) || words.test(p.text.slice(0, 400))) ||
  ownPages(s).some((p) => words.test(p.name) || words.test(p.path));

export const textsMissing: Rule = {
  name: 'texts-missing',
  about:
    'Texts that the law of the shop’s country asks for (imprint, privacy, withdrawal, terms) and that neither the site nor the checkout has.',
  weight: 'away',
  reads: ['till', 'pages'],
  *find(s) {
    if (!s.sells || !s.site.country) return;
    const missing = wanted.filter((w) => w.in(s.site.country) && !has(s, w.words));
    if (missing.length)
      yield {
        about: 'texts',
        place: inTill('Checkout'),
        title: `No text about ${list(
          missing.map((m) => m.name),
          4,
        )}`,
        meets: `Before they pay they look for it and find nothing. In ${s.till.countryName(s.site.country)} the law asks for it (${[...new Set(missing.map((m) => m.law))].join('; ')}).`,
        facts: missing.map((m) => m.name),
        mends: [
          openTill(
            'checkout',
            'Open the checkout',
            'Choose the pages of your site, or write the texts there.',
          ),
        ],
      };
    const { seller } = s.till.rules;
    if (!seller.name || !seller.address)
      yield {
        about: 'seller',
        place: inTill('Who sells'),
        title: `Invoices do not say ${[seller.name ? '' : 'who sells', seller.address ? '' : 'where you are'].filter(Boolean).join(', and ')}`,
        meets: 'They get an invoice without a sender.',
        mends: [
          openTill('seller', 'Open who sells', 'Enter name and address as invoices have to carry them.'),
        ],
      };
  },
};
