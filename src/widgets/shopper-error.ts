import { fieldsInText, textIn } from './answers';

/** A sentence of the server's for the shopper, in the shop's language. */
export class ShopperError extends Error {}

/** The sentence of a problem's answer (RFC 9457); '' where there is none. */
export const titleOf = (text: string): string => textIn(fieldsInText(text), 'title');

/** A form's fields as they are sent. */
export const fieldsOf = (data: FormData): URLSearchParams =>
  new URLSearchParams([...data].map(([name, value]) => [name, String(value)]));
