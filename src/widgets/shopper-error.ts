/** A sentence of the server's for the shopper, in the shop's language. */
export class ShopperError extends Error {}

/** The sentence of a problem's answer (RFC 9457); '' where there is none. */
export function titleOf(text: string): string {
  try {
    const { title } = JSON.parse(text) as { title?: unknown };
    return typeof title === 'string' ? title : '';
  } catch {
    return '';
  }
}

/** A form's fields as they are sent. */
export const fieldsOf = (data: FormData): URLSearchParams =>
  new URLSearchParams([...data].map(([name, value]) => [name, String(value)]));
