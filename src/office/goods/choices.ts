import { type TaxClass, taxClasses, type Visibility, visibilities } from '../../core/goods/choices';
import { choices as say } from '../words/goods';

const namesOfVisibility: Readonly<Record<Visibility, string>> = {
  shown: say.inTheShop,
  link: say.byLinkOnly,
  hidden: say.nobody,
};
const namesOfTaxClass: Readonly<Record<TaxClass, string>> = {
  standard: say.standard,
  reduced: say.reduced,
  zero: say.zero,
  books: say.books,
  digital: say.digital,
};

/** Who sees a product, to choose from. */
export const visibilityOptions = visibilities.map((v) => [v, namesOfVisibility[v]] as const);
/** Tax classes, to choose from. */
export const taxClassOptions = taxClasses.map((c) => [c, namesOfTaxClass[c]] as const);
