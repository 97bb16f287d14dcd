import { fieldsIn, textIn } from './answers';
import { taken } from './shared';

const { apiOf } = taken();

/**
 * A shopper's session on this site: kept in the site's own storage, sent in bodies alone. Where storage is blocked it lives
 * as long as the page.
 */
const sessions = new Map<string, string>();
const keyOf = (shop: string): string => `stall:orders:${shop}`;

export function sessionOf(shop: string): string {
  try {
    return sessions.get(shop) ?? localStorage.getItem(keyOf(shop)) ?? '';
  } catch {
    return '';
  }
}

function keep(shop: string, session: string): void {
  sessions.set(shop, session);
  try {
    if (session) localStorage.setItem(keyOf(shop), session);
    else localStorage.removeItem(keyOf(shop));
  } catch {
    // Blocked: the session lasts as long as the page.
  }
}

/** Asks for the account page: what a form on it says, the session, and the page itself, for the link in the letter. */
export async function askAccount(
  shop: string,
  form: URLSearchParams,
  signal: AbortSignal,
): Promise<Response> {
  const link = /^#orders=([\w-]{16,40})$/.exec(location.hash)?.[1];
  if (link) {
    // Used up at once, so it leaves the address: nobody passes it on with the page.
    history.replaceState(history.state, '', location.pathname + location.search);
    const answer = await post(`${apiOf(shop)}/account/session`, new URLSearchParams({ link }), signal);
    if (!answer.ok || !answer.headers.get('content-type')?.includes('json')) return answer;
    keep(shop, textIn(await fieldsIn(answer), 'session'));
  }
  if (form.get('password')) {
    const answer = await post(`${apiOf(shop)}/account/session`, form, signal);
    if (!answer.headers.get('content-type')?.includes('json')) return answer;
    keep(shop, textIn(await fieldsIn(answer), 'session'));
    form = new URLSearchParams();
  }
  const session = sessionOf(shop);
  if (session) form.set('session', session);
  form.set('page', location.href.split('#')[0] ?? '');
  const answer = await post(`${apiOf(shop)}/account`, form, signal);
  if (answer.status === 401 || form.has('leave') || form.get('erase') === 'yes') keep(shop, '');
  return answer;
}

/** As a plain form, which needs no preflight. */
const post = (to: string, body: URLSearchParams, signal: AbortSignal): Promise<Response> =>
  fetch(to, { method: 'POST', body, signal });
