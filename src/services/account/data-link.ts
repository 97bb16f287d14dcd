import { createHmac } from 'node:crypto';
import { isSecret } from '../ids';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';
import { shopUrl } from '../sites/addresses';

/** How long the way to one's own data holds, in milliseconds. */
const HOLDS_MS = 10 * 60_000;

const sign = (ctx: Ctx, site: Site, text: string): string =>
  createHmac('sha256', ctx.signing).update(`own data\n${site.row.id}\n${text}`).digest('base64url');

/** A way to all that is kept about an address, for whoever is signed in with it just now. */
export function dataHref(ctx: Ctx, site: Site, email: string): string {
  const text = Buffer.from(JSON.stringify([email, ctx.now().getTime() + HOLDS_MS])).toString('base64url');
  return `${shopUrl(ctx, site)}/my-data/${text}.${sign(ctx, site, text)}`;
}

/** The address a way is for; nothing when it is not ours, or over. */
export function dataLinkIsFor(ctx: Ctx, site: Site, link: string): string | undefined {
  const [text = '', signature = ''] = link.split('.');
  const right = sign(ctx, site, text);
  if (!isSecret(signature, right)) return undefined;
  const [email, until] = JSON.parse(Buffer.from(text, 'base64url').toString()) as [string, number];
  return until > ctx.now().getTime() ? email : undefined;
}
