import type { Call } from './router';

/** The placement a shopper came through, from the address. */
export const viaOf = (c: Call): string =>
  /^[a-z0-9]{8,16}$/.exec(c.url.searchParams.get('via') ?? '')?.[0] ?? '';
