import { defineMiddleware } from 'astro:middleware';

/** Pages that stand open before sign-in. */
const open = ['/sign-in', '/welcome', '/api/auth/', '/api/welcome'];

export const onRequest = defineMiddleware(async ({ locals, request, url, redirect }, next) => {
  const isOpen = open.some(
    (path) => url.pathname === path || (path.endsWith('/') && url.pathname.startsWith(path)),
  );
  // Nobody but the office's own pages may write; browsers always say where a writing request comes from.
  if (
    request.method !== 'GET' &&
    request.method !== 'HEAD' &&
    request.headers.get('origin') !== locals.app.ctx.addresses.office
  ) {
    return new Response('This request did not come from the office.', { status: 403 });
  }
  if (isOpen) return next();
  const owner = await locals.app.auth.ownerOf(request.headers);
  if (owner) {
    locals.owner = owner;
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
