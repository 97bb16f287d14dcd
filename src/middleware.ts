import { openEndpoints } from './contract/rights';
import { defineMiddleware } from 'astro:middleware';

/** Pages that stand open before sign-in. */
const openPages: ReadonlySet<string> = new Set([
  '/sign-in',
  '/welcome',
  '/forgotten',
  '/new-password',
  '/join',
]);

export const onRequest = defineMiddleware(async ({ locals, request, url, redirect }, next) => {
  // Nobody but the office's own pages may write; browsers always say where a writing request comes from.
  if (
    request.method !== 'GET' &&
    request.method !== 'HEAD' &&
    request.headers.get('origin') !== locals.app.ctx.addresses.office
  ) {
    return new Response('This request did not come from the office.', { status: 403 });
  }
  const path = url.pathname.replace(/(.)\/$/, '$1');
  const isOpen = openPages.has(path) || openEndpoints.has(path);
  const person = await locals.app.accounts.personOf(request.headers);
  if (person) locals.person = person;
  if (isOpen) return next();
  if (person) {
    const response = await next();
    response.headers.set('cache-control', 'no-store');
    return response;
  }
  if (url.pathname.startsWith('/api/'))
    return Response.json(
      { title: 'You are signed out. Sign in again; what you typed is kept on this page.', status: 401 },
      { status: 401 },
    );
  return redirect(`/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
});
