/** Words of one language beside an amount, each as the source of a pattern; letters with and without accents. Common practice. */
interface Words {
  /** Before it: a reduction, a threshold, shipping, a deposit, what it cost once, several for one amount. Not a price of today. */
  readonly before: readonly string[];
  /** Behind it, to the same end. */
  readonly behind: readonly string[];
  /** "a", "per": before a unit of time or size an amount is a rate. */
  readonly per: readonly string[];
  readonly units: readonly string[];
  /** A sentence that speaks of another time. */
  readonly past: readonly string[];
  /** How a sentence begins that goes on with what the one before it named: "It costs", "Now only". */
  readonly goesOn: readonly string[];
}

/** The languages that prices in texts are read in. Another one is an entry here, and texts with marks in bench/labels/prices.ts. */
const languages: Readonly<Record<string, Words>> = {
  en: {
    before: [
      ...['over', 'above', 'orders? (?:of|from|over)', 'spend(?:ing)?', 'minimum', 'up to', 'less than'],
      ...['more than', 'under', 'save', 'saving', 'off', 'was', 'were', 'before', 'instead of'],
      ...['used to(?: be| cost)?', 'formerly', 'originally', 'rrp', 'worth', 'deposit(?: of)?', 'postage'],
      ...['shipping', 'delivery', 'carriage', 'p ?& ?p', 'plus', 'add(?:itional)?', 'extra', 'fee', 'fine'],
      ...['vat', 'tax', 'raised', 'paid', 'won', 'donat\\w+', 'about', 'around', 'nearly', 'almost'],
      ...['two for', 'three for', '\\d+ for', 'each additional'],
    ],
    behind: [
      ...[
        'off\\b',
        'discount',
        'cheaper',
        'deposit',
        'postage',
        'shipping',
        'delivery',
        'p ?& ?p',
        'voucher',
      ],
      ...['gift', 'extra', 'surcharge', 'more\\b', 'less\\b', 'and (?:over|above|up)', 'or more', '\\+ ?vat'],
      ...['plus vat', 'ex\\.? ?vat', 'excl'],
    ],
    per: ['an?', 'per', '\\/'],
    units: [
      ...['hour', 'day', 'week', 'month', 'year', 'night', 'head', 'metre', 'meter', 'kg', 'kilo', 'gram'],
      ...['g\\b', 'litre', 'liter', 'l\\b', 'm\\b', 'm2', 'm²', '100 ?g', '100 ?ml'],
    ],
    past: [
      ...['used to', 'years? ago', 'in (?:19|20)\\d\\d', 'back then', 'last year', 'once (?:cost|sold)'],
    ],
    goesOn: ['it', 'they', 'each', 'one', 'price', 'costs?', 'now', 'from', 'only', 'just', 'for', 'at'],
  },
  de: {
    before: [
      ...['[uü]ber', 'ab (?:einem )?(?:bestellwert|einkauf)\\w*(?: von)?', 'bestellwert(?: von)?'],
      ...['mindestens', 'statt', 'fr[uü]her', 'vorher', 'sparen?(?: sie)?', 'ersparnis', 'rabatt(?: von)?'],
      ...['gutschein(?: [uü]ber)?', 'kaution(?: von)?', 'anzahlung(?: von)?', 'versand(?:kosten)?(?: von)?'],
      ...['porto', 'zzgl\\.?', 'zuz[uü]glich', 'aufpreis(?: von)?', 'uvp', 'etwa', 'rund', 'fast'],
    ],
    behind: [
      ...['rabatt', 'g[uü]nstiger', 'gutschein', 'versand', 'porto', 'anzahlung', 'kaution', 'aufpreis'],
      ...['mehr\\b', 'weniger\\b', 'netto', 'zzgl\\.? ?(?:mwst|ust|steuer)'],
    ],
    per: ['je', 'pro'],
    units: ['stunde', 'tag', 'woche', 'monat', 'jahr', 'nacht', 'quadratmeter'],
    past: ['damals', 'fr[uü]her', 'vor jahren', 'letztes jahr', 'im (?:letzten|vorigen) jahr'],
    goesOn: ['er', 'sie', 'es', 'preis', 'kostet', 'jetzt', 'nur', 'ab', 'f[uü]r'],
  },
  fr: {
    before: [
      ...['plus de', 'd[eè]s (?:un achat de)?', "[aà] partir d['’ ]?(?:un achat de|une commande de)"],
      ...['au lieu de', '[eé]conomisez', 'remise de', 'acompte de', 'caution de', 'frais de port(?: de)?'],
      ...['livraison', 'port', 'environ', 'avant', 'anciennement', 'suppl[eé]ment de'],
    ],
    behind: [
      ...['de r[eé]duction', 'de remise', 'de port', 'de frais', "d['’]achat", "d['’]acompte", 'de caution'],
      ...['ht\\b', 'hors taxe'],
    ],
    per: ['le', 'la'],
    units: ['heure', 'jour', 'semaine', 'mois', 'nuit', 'm[eè]tre'],
    past: ['autrefois', "[aà] l['’][eé]poque", 'il y a'],
    goesOn: ['il', 'elle', 'prix', 'co[uû]te', 'maintenant', 'seulement', 'pour'],
  },
  es: {
    before: [
      ...['m[aá]s de', 'superior(?:es)? a', 'antes', 'en vez de', 'ahorr\\w+', 'descuento de'],
      ...['dep[oó]sito de', 'env[ií]o', 'gastos de env[ií]o(?: de)?'],
    ],
    behind: ['de descuento', 'de env[ií]o', 'de dep[oó]sito', 'm[aá]s iva', 'sin iva'],
    per: ['por', 'al', 'la'],
    units: ['hora', 'd[ií]a', 'semana', 'mes', 'noche', 'metro'],
    past: ['el a[nñ]o pasado', 'hace a[nñ]os'],
    goesOn: ['lo', 'la', 'precio', 'cuesta', 'ahora', 's[oó]lo', 'por'],
  },
  it: {
    before: [
      ...['oltre', 'superiori? a', 'prima', 'invece di', 'risparmi\\w*', 'sconto di', 'acconto di'],
      ...['caparra di', 'spedizione'],
    ],
    behind: ['di sconto', 'di spedizione', 'di acconto', 'iva esclusa', '\\+ ?iva'],
    per: ['il', 'la', 'di', 'al'],
    units: ['ora', 'giorno', 'settimana', 'mese', 'notte', 'metro'],
    past: ["l['’]anno scorso", 'anni fa'],
    goesOn: ['esso', 'prezzo', 'costa', 'ora', 'solo', 'per'],
  },
  nl: {
    before: [
      ...['boven', 'vanaf een bestelling van', 'meer dan', 'was', 'eerst', 'in plaats van', 'bespaar'],
      ...['korting van', 'borg van', 'verzendkosten(?: van)?', 'verzending', 'ongeveer', 'voorheen'],
    ],
    behind: ['korting', 'verzend', 'borg', 'aanbetaling', 'ex(?:cl)?\\.? ?btw', 'meer\\b'],
    per: ['per', 'het', 'de'],
    units: ['uur', 'dag', 'week', 'maand', 'nacht', 'jaar'],
    past: ['vorig jaar', 'jaren geleden'],
    goesOn: ['het', 'hij', 'prijs', 'nu', 'slechts', 'voor'],
  },
};

/** Texts of a site are of one language as a rule, and of two now and then: all are looked for. */
const anyOf = (part: keyof Words): string =>
  [...new Set(Object.values(languages).flatMap((w) => w[part]))].join('|');

/** At the end of what stands before an amount. */
export const otherBefore = new RegExp(`(?<!\\p{L})(?:${anyOf('before')})\\s*:?\\s*$`, 'iu');
/** At the start of what stands behind it. */
export const otherBehind = new RegExp(
  `^\\s*(?:${anyOf('behind')}|(?:${anyOf('per')})\\s*(?:${anyOf('units')}))`,
  'iu',
);
export const past = new RegExp(`(?<!\\p{L})(?:${anyOf('past')})(?!\\p{L})`, 'iu');
export const goesOn = new RegExp(`^(?:${anyOf('goesOn')})(?!\\p{L})`, 'iu');
