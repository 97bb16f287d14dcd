import { QueryClientProvider } from '@tanstack/react-query';
import { render, type RenderResult } from '@testing-library/react';
import type { ReactElement } from 'react';
import { vi } from 'vitest';
import { methodOf, pathOf } from '../contract/address';
import type { AccountAnswer, AccountRoute } from '../contract/account';
import type { Answer, Route, Wire } from '../contract/endpoints';
import type { Role } from '../core/people/roles';
import { queries } from './api';
import { type Boot, BootContext } from './shop-context';

/** What an endpoint got: its path's open names, its query and its body. */
interface Got {
  readonly params: readonly string[];
  readonly query: URLSearchParams;
  readonly body: unknown;
}
type Answers = { readonly [R in Route]?: (got: Got) => Wire<Answer<R>> | Response } & {
  readonly [R in AccountRoute]?: (got: Got) => Wire<AccountAnswer<R>> | Response;
};

export interface Sent extends Got {
  readonly route: Route | AccountRoute;
}

/** An office whose endpoints answer what a test says, held to the contract. @returns what was sent, as it comes. */
export function fakeOffice(answers: Answers): Sent[] {
  const sent: Sent[] = [];
  const routes = (Object.keys(answers) as (Route | AccountRoute)[]).map((route) => ({
    route,
    is: new RegExp(`^/api/[^/]+/${pathOf(route).replace(/:\w+/g, '([^/]+)')}$`),
  }));
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const url = new URL(address, 'http://office.test');
    const method = init.method ?? 'GET';
    const found = routes.find((r) => methodOf(r.route) === method && r.is.test(url.pathname));
    if (!found) return Response.json({ title: `nobody answers ${method} ${address}` }, { status: 404 });
    const { body } = init;
    const got: Sent = {
      route: found.route,
      params: found.is.exec(url.pathname)?.slice(1) ?? [],
      query: url.searchParams,
      body: typeof body === 'string' ? JSON.parse(body) : body,
    };
    sent.push(got);
    const value = answers[found.route]?.(got);
    return value instanceof Response ? value : Response.json(value ?? { done: true });
  });
  return sent;
}

const site: Boot['site'] = {
  slug: 'kiln',
  name: 'Kiln',
  currency: 'GBP',
  locale: 'en-GB',
  liveUrl: 'https://kiln.example',
  draftUrl: 'http://kiln.draft.test',
  shopUrl: 'http://shop.test/kiln',
  goodsAddress: 'https://kiln.example/shop/?goods={}',
  font: 'serif',
  fonts: [],
  badgeRoom: 115,
  country: 'GB',
  taxRates: { standard: 20, reduced: 5, zero: 0, books: 0, digital: 20 },
  taxIncluded: true,
  sells: ['ships'],
  units: 'metric',
};

/** A view of the office in an office, nothing remembered from before. */
export function inOffice(
  view: ReactElement,
  of: Partial<Boot['site']> = {},
  role: Role = 'owner',
): RenderResult {
  queries.clear();
  const boot: Boot = {
    place: 'goods',
    person: { name: 'Jo', email: 'jo@kiln.example', role },
    site: { ...site, ...of },
    sites: [],
  };
  return render(
    <QueryClientProvider client={queries}>
      <BootContext value={boot}>{view}</BootContext>
    </QueryClientProvider>,
  );
}
