import type { Right } from '../core/people/roles';
import type { OrderAct } from '../core/till/order-life';
import type { AccountInput, AccountRoute } from './account';
import { accountAddress } from './address';
import type { Route } from './endpoints';

/**
 * Which right each route of a site needs. The compiler names a route that is missing; whatever is not said
 * to be somebody else's is the owner's own.
 */
export const rightFor: Readonly<Record<Route, Right>> = {
  'GET overview': 'own',
  'GET coverage': 'own',
  'GET status': 'own',
  'GET bench': 'own',
  'GET bench/pitches': 'own',
  'POST placements': 'own',
  'PATCH placements/:id': 'own',
  'POST placements/change': 'own',
  'DELETE placements/:id': 'own',
  'GET menu': 'own',
  'PUT menu': 'own',
  'GET selling': 'own',
  'POST selling': 'own',
  'POST selling/cart': 'own',
  'PATCH selling': 'own',
  'GET arrived': 'own',
  'POST arrived': 'own',
  'POST arrived/all': 'own',
  'DELETE arrived': 'own',
  'GET hand-out': 'own',
  'PUT hand-out': 'own',
  'POST hand-out/look': 'own',
  'GET look': 'own',
  'POST look': 'own',
  'PUT look/measured': 'own',
  'POST look/drift': 'own',
  'GET look/sample': 'own',
  'GET checks': 'own',
  'POST checks': 'own',
  'DELETE checks': 'own',
  'GET checks/count': 'own',
  'POST checks/mend': 'own',
  'POST checks/leave': 'own',
  'GET checks/way': 'own',
  'PUT checks/seen': 'own',
  'GET slip': 'own',
  'POST slip': 'own',
  'POST publish': 'own',
  'POST put-up': 'own',
  'PUT live-address': 'own',
  'POST newer': 'own',
  'GET publications': 'own',
  'DELETE publications': 'own',
  'GET publications/page': 'own',
  'POST publications/:id': 'own',
  'GET site.zip': 'own',
  'GET goods': 'see-goods',
  'POST goods': 'own',
  'GET goods/:id': 'see-goods',
  // A helper counts; whether more than a count is changed is asked where the body is read.
  'PUT goods/:id': 'count-stock',
  'DELETE goods/:id': 'own',
  'POST goods/:id/copy': 'own',
  'POST goods/:id/move': 'own',
  'GET goods/:id/movements': 'see-goods',
  'POST goods/:id/preview': 'own',
  'POST goods/bulk': 'own',
  'POST goods/bulk/preview': 'own',
  'POST goods/samples': 'own',
  'GET goods/csv': 'own',
  'POST goods/csv': 'own',
  'POST goods/csv/take': 'own',
  'GET categories': 'own',
  'POST categories': 'own',
  'GET reviews': 'own',
  'PUT reviews/:id': 'own',
  'POST pictures': 'own',
  'POST files': 'own',
  'GET till': 'own',
  'PUT till': 'own',
  'PATCH till': 'own',
  'POST till/try': 'own',
  'GET letters': 'own',
  'POST letters/preview': 'own',
  'GET orders': 'see-orders',
  'DELETE orders': 'own',
  'GET orders/csv': 'see-books',
  'GET orders/:id': 'see-orders',
  // Whether it is an act with money is asked where the body is read.
  'POST orders/:id': 'handle-orders',
  'POST orders/:id/surplus': 'handle-money',
  'POST orders/:id/downloads': 'handle-orders',
  'GET orders/:id/policy': 'see-orders',
  'PUT subscriptions/:id': 'own',
  'GET takings': 'see-books',
  'GET takings/csv': 'see-books',
  'GET papers/:id': 'see-orders',
  'GET papers/slips': 'see-orders',
};

/** The same for accounts: everybody's own, what stands open before sign-in, and who else there is. */
export const accountRightFor: Readonly<Record<AccountRoute, Right | 'open' | 'signed-in'>> = {
  'POST sign-in': 'open',
  'POST sign-in/code': 'open',
  'DELETE sign-in': 'open',
  'POST forgotten': 'open',
  'PUT forgotten': 'open',
  'POST join': 'open',
  'GET me': 'signed-in',
  'PUT password': 'signed-in',
  'DELETE sessions': 'signed-in',
  'POST second-factor': 'signed-in',
  'PUT second-factor': 'signed-in',
  'DELETE second-factor': 'signed-in',
  'GET people': 'own',
  'POST people': 'own',
  'PATCH people/:id': 'own',
  'DELETE people/:id': 'own',
  'DELETE invitations/:id': 'own',
  'GET activity': 'own',
};

const openRoutes = (Object.keys(accountRightFor) as AccountRoute[]).filter(
  (r) => accountRightFor[r] === 'open',
);

/** Endpoints that stand open before sign-in, by their paths. */
export const openEndpoints: ReadonlySet<string> = new Set([
  '/api/welcome',
  ...openRoutes.map((route) => accountAddress(route, {} as AccountInput<AccountRoute>)),
]);

/** Requests that write but leave nothing behind that one would ask about: they try, look or keep up. */
const passing = [
  'POST arrived',
  'POST arrived/all',
  'POST hand-out/look',
  'PUT look/measured',
  'POST checks',
  'DELETE checks',
  'PUT checks/seen',
  'POST goods/:id/preview',
  'POST goods/bulk/preview',
  'POST goods/csv',
  'POST till/try',
  'POST letters/preview',
  'POST pictures',
  'POST files',
] as const satisfies readonly Route[];

/** Routes after which it is written down who did it. */
export type RecordedRoute = Exclude<Exclude<Route, `GET ${string}`>, (typeof passing)[number]>;

/** What is told more exactly than by its route: which act an order saw, and that a product was only counted. */
export type ActivityDetail = OrderAct | 'counted';

export const isRecorded = (route: Route): route is RecordedRoute =>
  !route.startsWith('GET ') && !(passing as readonly Route[]).includes(route);
