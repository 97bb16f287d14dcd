/** How a product is taxed; what each class costs in a country is a rule of the till. */
export const taxClasses = ['standard', 'reduced', 'zero', 'books', 'digital'] as const;
export type TaxClass = (typeof taxClasses)[number];

/** Who meets a product: everybody in the shop, whoever has its link, nobody. */
export const visibilities = ['shown', 'link', 'hidden'] as const;
export type Visibility = (typeof visibilities)[number];

/** Last figures that a changed price may be rounded to; none leaves it as it comes. */
export const priceEndings = ['', '00', '50', '90', '95', '99'] as const;
