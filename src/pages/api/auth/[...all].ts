import type { APIRoute } from 'astro';

export const ALL: APIRoute = ({ locals, request }) => locals.app.auth.handler(request);
