import { defineMiddleware } from 'astro:middleware';

/** Pages and endpoints that stand open before sign-in. */
const open: ReadonlySet<string> = new Set([
  ...['/sign-in', '/welcome', '/forgotten', '/new-password', '/join'],
  ...['/api/account/sign-in', '/api/account/sign-in/code', '/api/account/forgotten', '/api/account/join'],
  '/api/welcome',
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
  const isOpen = open.has(url.pathname.replace(/(.)\/$/, '$1'));
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
