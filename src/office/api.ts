import { QueryClient } from '@tanstack/react-query';
import type { AccountAnswer, AccountInput, AccountRoute } from '../contract/account';
import { accountAddress, address, methodOf } from '../contract/address';
import type { Answer, Input, Route, Wire } from '../contract/endpoints';
import { api as say } from './words/frame';

/** What an endpoint refused with, as a sentence for the owner; `field` names what to look at. */
export class Problem extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly field?: string,
  ) {
    super(message);
  }
}

type Args<R extends Route> = object extends Input<R> ? [input?: Input<R>] : [input: Input<R>];

/** Letters of a body that is sent on when its page is left; browsers keep 64 KiB of all such together (Fetch, 5.6). */
const KEPT = 16_000;

/**
 * One call to the office's own endpoints, by a route of the contract: `call(site.slug, 'GET goods/:id', { id })`. Files are
 * sent as their bytes, everything else as JSON.
 * @throws Problem
 */
export async function call<R extends Route>(
  site: string,
  route: R,
  ...[input = {} as Input<R>]: Args<R>
): Promise<Wire<Answer<R>>> {
  const { body } = input as { readonly body?: unknown };
  // Both sides compile against the contract, and the server comes with the office: its answer is what it
  // says.
  return (await send(address(site, route, input), methodOf(route), body)) as Wire<Answer<R>>;
}

/**
 * The same about accounts, by a route of their own contract: `ask('DELETE people/:id', { id })`.
 * @throws Problem
 */
export async function ask<R extends AccountRoute>(
  route: R,
  input: AccountInput<R>,
): Promise<Wire<AccountAnswer<R>>> {
  const { body } = input as { readonly body?: unknown };
  return (await send(accountAddress(route, input), methodOf(route), body)) as Wire<AccountAnswer<R>>;
}

/** Makes the first owner, by the key that was printed at start. @throws Problem */
export const welcome = (founder: Readonly<Record<'key' | 'name' | 'email' | 'password', string>>) =>
  send('/api/welcome', 'POST', founder);

async function send(url: string, method: string, body: unknown): Promise<unknown> {
  const sent = body === undefined || body instanceof Blob ? body : JSON.stringify(body);
  const answer = await fetch(url, {
    method,
    // Said even without a body: a writing request that names no type counts as a form, and is refused.
    ...(method !== 'GET' && { headers: { 'content-type': typeOf(body) } }),
    ...(sent !== undefined && { body: sent }),
    // What was said right before the page is left still arrives.
    keepalive: method !== 'GET' && (typeof sent === 'string' ? sent.length <= KEPT : sent === undefined),
  }).catch(() => {
    throw new Problem(say.theOfficeDoesNotAnswerCheck, 0);
  });
  const value = (await answer.json().catch(() => ({}))) as { title?: string; field?: string };
  if (!answer.ok) throw new Problem(value.title ?? say.thatDidNotWorkPleaseTry, answer.status, value.field);
  return value;
}

const typeOf = (body: unknown): string =>
  body instanceof Blob ? 'application/octet-stream' : 'application/json';

export const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 2000, retry: 1, refetchOnWindowFocus: true } },
});

/** Answers that the office remembers, by what they are about. One that is refreshed under another name would never be. */
export type ViewName =
  | 'bench'
  | 'bulk'
  | 'categories'
  | 'checks'
  | 'checks-count'
  | 'checks-way'
  | 'coverage'
  | 'diff'
  | 'goods'
  | 'hand-out'
  | 'handed-out'
  | 'letters'
  | 'look'
  | 'look-sample'
  | 'menu'
  | 'orders'
  | 'overview'
  | 'pitches'
  | 'reviews'
  | 'selling'
  | 'slip'
  | 'status'
  | 'takings'
  | 'till'
  | 'try'
  | 'me'
  | 'people'
  | 'activity';

/** What an answer is remembered by. */
export const viewKey = (name: ViewName, ...of: readonly unknown[]): readonly unknown[] => [name, ...of];

/** After a change: everything that may show it is asked for again. Whatever stands on the slip is checked, too. */
export const refresh = (...keys: readonly ViewName[]): void => {
  const all = keys.includes('slip') ? [...keys, 'checks', 'checks-count', 'checks-way'] : keys;
  for (const key of all) void queries.invalidateQueries({ queryKey: [key] });
};

/** What was filled in, without what was left empty: as a query says it. */
export const filledIn = <T extends { readonly [K in keyof T]: string }>(asked: T): Partial<T> =>
  Object.fromEntries(Object.entries(asked).filter(([, v]) => v)) as Partial<T>;
