/** What may stand in a text: what is said of a thing. */
export type Said = string | number | boolean | null | undefined;
