/** Words of invoices, credit notes and packing slips, in the languages the shop speaks. */
const en = {
  invoice: 'Invoice', credit: 'Credit note', slip: 'Packing slip', number: 'Number', issued: 'Date', supplied: 'Date of supply', order: 'Order', about: 'For invoice', taxNumber: 'Tax number', to: 'To', from: 'From', what: 'What', pieces: 'Pieces', each: 'Each', amount: 'Amount', rate: 'Tax', without: 'Without tax', tax: 'Tax {n} %', on: 'on {x}', total: 'Total', givenBack: 'Given back', included: 'Prices contain the tax.', noTax: 'No tax', note: 'Note', packed: 'Packed', by: 'By', page: 'Page {n} of {x}', collect: 'To be collected', shipping: 'Shipping: {x}', paidBy: 'Paid: {x}', voucher: '{x} by gift voucher', beside: 'Beside the goods', given: 'Given back',
};
export type PaperWords = typeof en;
const de: PaperWords = {
  invoice: 'Rechnung', credit: 'Gutschrift', slip: 'Packzettel', number: 'Nummer', issued: 'Datum', supplied: 'Leistungsdatum', order: 'Bestellung', about: 'Zur Rechnung', taxNumber: 'Steuernummer', to: 'An', from: 'Von', what: 'Was', pieces: 'Stück', each: 'Einzeln', amount: 'Betrag', rate: 'Steuer', without: 'Ohne Steuer', tax: 'Steuer {n} %', on: 'auf {x}', total: 'Summe', givenBack: 'Zurückgegeben', included: 'Die Preise enthalten die Steuer.', noTax: 'Keine Steuer', note: 'Nachricht', packed: 'Gepackt', by: 'Mit', page: 'Seite {n} von {x}', collect: 'Wird abgeholt', shipping: 'Versand: {x}', paidBy: 'Bezahlt: {x}', voucher: '{x} mit Gutschein', beside: 'Neben der Ware', given: 'Zurückgegeben',
};
const fr: PaperWords = {
  invoice: 'Facture', credit: 'Avoir', slip: 'Bon de livraison', number: 'Numéro', issued: 'Date', supplied: 'Date de livraison', order: 'Commande', about: 'Sur la facture', taxNumber: 'Numéro fiscal', to: 'À', from: 'De', what: 'Quoi', pieces: 'Pièces', each: 'Prix', amount: 'Montant', rate: 'Taxe', without: 'Hors taxe', tax: 'Taxe {n} %', on: 'sur {x}', total: 'Total', givenBack: 'Remboursé', included: 'Les prix contiennent la taxe.', noTax: 'Sans taxe', note: 'Message', packed: 'Emballé', by: 'Par', page: 'Page {n} sur {x}', collect: 'À retirer', shipping: 'Livraison : {x}', paidBy: 'Payé : {x}', voucher: '{x} par bon cadeau', beside: 'Outre la marchandise', given: 'Remboursé',
};

export const paperWordsIn = (lang: string): PaperWords => ({ en, de, fr })[lang.slice(0, 2).toLowerCase()] ?? en;
