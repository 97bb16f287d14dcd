import type { APIRoute } from 'astro';
import type { AccountAnswer, AccountRoute } from '../contract/account';
import { accountRightFor } from '../contract/rights';
import { mayDo } from '../core/people/roles';
import { notYours, problemResponse } from './_endpoint';

interface Call {
  readonly app: App.Locals['app'];
  /** Whoever is signed in. Before sign-in nobody is, and no route that stands open asks. */
  readonly me: App.Locals['person'];
  readonly headers: Headers;
  readonly id: string;
  readonly query: URLSearchParams;
  readonly body: unknown;
}

/** What is answered, with cookies where some belong to it. */
type Answered<R extends AccountRoute> = {
  readonly value: AccountAnswer<R>;
  readonly cookies?: readonly string[];
};

/**
 * A call about accounts: parsed, judged by who asks, and answered. The table in contract/account.ts says
 * what is taken and answered.
 */
export const accountEndpoint =
  <R extends AccountRoute>(route: R, work: (call: Call) => Promise<Answered<R>>): APIRoute =>
  async ({ locals, params, url, request }) => {
    const { app, person: me } = locals;
    try {
      const right = accountRightFor[route];
      if (right !== 'open' && right !== 'signed-in' && !mayDo(me.role, right)) throw notYours(app);
      const { value, cookies = [] } = await work({
        ...{ app, me, headers: request.headers, id: params.id ?? '', query: url.searchParams },
        body: route.startsWith('GET ') ? undefined : await request.json().catch(() => undefined),
      });
      const response = Response.json(value ?? { done: true }, { headers: { 'cache-control': 'no-store' } });
      for (const cookie of cookies) response.headers.append('set-cookie', cookie);
      return response;
    } catch (error) {
      return problemResponse(app, error);
    }
  };

/** A body as its parser knows it. @throws Refusal that says which field is missing or wrong. */
export function parsed<T>(
  app: App.Locals['app'],
  schema: {
    safeParse: (
      v: unknown,
    ) =>
      | { success: true; data: T }
      | { success: false; error: { issues: { message: string; path: PropertyKey[] }[] } };
  },
  body: unknown,
): T {
  const read = schema.safeParse(body);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw app.services.errors.invalid(issue?.message ?? 'Something is missing.', { field: issue?.path[0] });
}
