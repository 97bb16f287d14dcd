/**
 * What widgets say, in the languages they speak. A shop speaks its site's language; a widget may be told another. Where a
 * language is not among these, English stands. `{n}` and `{x}` are filled in.
 */
const en = {
  buy: 'Buy: {x}', add: 'Add to cart', addShort: 'Add', choose: 'Name an amount', chooseShort: 'Choose', soldOut: 'sold out', soldOutLong: 'Sold out', left: 'Only {n} left', inCart: 'It is in your cart.', seeCart: 'See your cart', toCheckout: 'Go to checkout',
  failed: 'That did not work just now. Please try again.', cart: 'Cart', yourCart: 'Your cart', close: 'Close', empty: 'There is nothing in your cart yet.', keepLooking: 'Keep looking', total: 'Total', each: 'each',
  onePiece: '{n} piece', pieces: '{n} pieces', offer: 'On offer', before: 'before', now: 'now', from: 'from {x}', search: 'Search', searchFor: 'Search the shop', found: '{n} found', foundOne: '1 found', nothingFound: 'Nothing was found for “{x}”. Try fewer letters, or look through all goods.',
  all: 'All goods', sort: 'Order', hand: 'As we like it', newest: 'Newest first', name: 'By name', cheapest: 'Cheapest first', dearest: 'Dearest first', previous: 'Previous', next: 'Next', page: 'Page {n} of {x}', back: 'Back to all goods',
  nothingHere: 'Nothing is for sale here just now.', filter: 'Show only rows with', amount: 'Your amount', least: 'at least {x}', howMany: 'How many', show: 'Show', product: 'Product', price: 'Price', stock: 'Stock', inStock: 'in stock',
  orderNumber: 'Order number', email: 'The e-mail address you ordered with', lookUp: 'Look up the order', noOrder: 'There is no order of that number with that address. Look at the mail you got: both stand in it.', paid: 'Paid', waiting: 'Waiting for the payment', declined: 'The payment did not go through', ordered: 'Ordered', account: 'Your orders', related: 'Goes well with it', gone: 'This product is not for sale any more.',
};
export type Words = typeof en;

const de: Words = {
  buy: 'Kaufen: {x}', add: 'In den Korb', addShort: 'In den Korb', choose: 'Betrag nennen', chooseShort: 'W\u00e4hlen', soldOut: 'ausverkauft', soldOutLong: 'Ausverkauft', left: 'Nur noch {n} da', inCart: 'Liegt im Korb.', seeCart: 'Zum Korb', toCheckout: 'Zur Kasse',
  failed: 'Das ging gerade nicht. Bitte noch einmal versuchen.', cart: 'Korb', yourCart: 'Ihr Korb', close: 'Schlie\u00dfen', empty: 'Ihr Korb ist noch leer.', keepLooking: 'Weiter umsehen', total: 'Summe', each: 'je St\u00fcck',
  onePiece: '{n} St\u00fcck', pieces: '{n} St\u00fcck', offer: 'Angebot', before: 'vorher', now: 'jetzt', from: 'ab {x}', search: 'Suchen', searchFor: 'Im Laden suchen', found: '{n} gefunden', foundOne: '1 gefunden', nothingFound: 'Zu \u201e{x}\u201c wurde nichts gefunden. Versuchen Sie es mit weniger Buchstaben.',
  all: 'Alles', sort: 'Reihenfolge', hand: 'Unsere Auswahl', newest: 'Neues zuerst', name: 'Nach Namen', cheapest: 'G\u00fcnstiges zuerst', dearest: 'Teures zuerst', previous: 'Zur\u00fcck', next: 'Weiter', page: 'Seite {n} von {x}', back: 'Zur\u00fcck zu allem',
  nothingHere: 'Hier gibt es gerade nichts zu kaufen.', filter: 'Nur Zeilen mit', amount: 'Ihr Betrag', least: 'mindestens {x}', howMany: 'Wie viele', show: 'Zeigen', product: 'Ware', price: 'Preis', stock: 'Vorrat', inStock: 'vorr\u00e4tig',
  orderNumber: 'Bestellnummer', email: 'E-Mail-Adresse der Bestellung', lookUp: 'Bestellung ansehen', noOrder: 'Zu dieser Nummer und Adresse gibt es keine Bestellung. Beides steht in Ihrer E-Mail.', paid: 'Bezahlt', waiting: 'Zahlung steht noch aus', declined: 'Die Zahlung ging nicht durch', ordered: 'Bestellt', account: 'Ihre Bestellungen', related: 'Passt dazu', gone: 'Das gibt es nicht mehr zu kaufen.',
};

const fr: Words = {
  buy: 'Acheter : {x}', add: 'Mettre au panier', addShort: 'Ajouter', choose: 'Choisir un montant', chooseShort: 'Choisir', soldOut: '\u00e9puis\u00e9', soldOutLong: '\u00c9puis\u00e9', left: 'Plus que {n}', inCart: 'C\u2019est dans votre panier.', seeCart: 'Voir le panier', toCheckout: 'Passer commande',
  failed: 'Cela n\u2019a pas march\u00e9. R\u00e9essayez, s\u2019il vous pla\u00eet.', cart: 'Panier', yourCart: 'Votre panier', close: 'Fermer', empty: 'Votre panier est encore vide.', keepLooking: 'Continuer', total: 'Total', each: 'pi\u00e8ce',
  onePiece: '{n} article', pieces: '{n} articles', offer: 'En promotion', before: 'avant', now: 'maintenant', from: '\u00e0 partir de {x}', search: 'Chercher', searchFor: 'Chercher dans la boutique', found: '{n} trouv\u00e9s', foundOne: '1 trouv\u00e9', nothingFound: 'Rien pour \u00ab {x} \u00bb. Essayez avec moins de lettres.',
  all: 'Tout', sort: 'Ordre', hand: 'Notre choix', newest: 'Nouveaut\u00e9s', name: 'Par nom', cheapest: 'Prix croissant', dearest: 'Prix d\u00e9croissant', previous: 'Pr\u00e9c\u00e9dent', next: 'Suivant', page: 'Page {n} sur {x}', back: 'Retour \u00e0 la boutique',
  nothingHere: 'Rien \u00e0 vendre ici pour le moment.', filter: 'Seulement les lignes avec', amount: 'Votre montant', least: 'au moins {x}', howMany: 'Combien', show: 'Afficher', product: 'Article', price: 'Prix', stock: 'Stock', inStock: 'en stock',
  orderNumber: 'Num\u00e9ro de commande', email: 'Adresse e-mail de la commande', lookUp: 'Voir la commande', noOrder: 'Aucune commande avec ce num\u00e9ro et cette adresse. Les deux figurent dans votre e-mail.', paid: 'Pay\u00e9e', waiting: 'En attente du paiement', declined: 'Le paiement n\u2019a pas abouti', ordered: 'Command\u00e9', account: 'Vos commandes', related: 'Va bien avec', gone: 'Cet article n\u2019est plus en vente.',
};

const spoken: Readonly<Record<string, Words>> = { en, de, fr };
export const languages = Object.keys(spoken);

/** The words for a language tag: "de-AT" is German. */
export const wordsIn = (lang: string): Words => spoken[lang.slice(0, 2).toLowerCase()] ?? en;

export const fill = (text: string, values: { readonly n?: number | string; readonly x?: number | string }): string =>
  text.replace(/\{([nx])\}/g, (_, key: 'n' | 'x') => String(values[key] ?? ''));
