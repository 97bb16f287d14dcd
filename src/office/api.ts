import { QueryClient } from '@tanstack/react-query';
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

/** One JSON call to the office's own endpoints. @throws Problem */
export async function call<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const raw = body instanceof Blob;
  const answer = await fetch(path, {
    method,
    // Said even without a body: a writing request that names no type counts as a form, and is refused.
    ...(method !== 'GET' && {
      headers: { 'content-type': raw ? 'application/octet-stream' : 'application/json' },
    }),
    ...(body !== undefined && { body: raw ? body : JSON.stringify(body) }),
  }).catch(() => {
    throw new Problem(say.theOfficeDoesNotAnswerCheck, 0);
  });
  const value = (await answer.json().catch(() => ({}))) as T & { title?: string; field?: string };
  if (!answer.ok) throw new Problem(value.title ?? say.thatDidNotWorkPleaseTry, answer.status, value.field);
  return value;
}

export const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 2000, retry: 1, refetchOnWindowFocus: true } },
});

/** After a change: everything that may show it is asked for again. */
export const refresh = (...keys: string[]): void => {
  for (const key of keys) void queries.invalidateQueries({ queryKey: [key] });
};
