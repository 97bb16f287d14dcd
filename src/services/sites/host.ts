import { zipSync } from 'fflate';
import type { Manifest } from '../../data/schema/site';
import type { Ctx } from '../context';
import { unreachable } from '../errors';

/** Level 1: pictures and fonts do not shrink, and the host is near. */
export async function packZip(ctx: Ctx, manifest: Manifest): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  for (const [path, hash] of Object.entries(manifest)) files[path] = await ctx.blobs.get(hash);
  return zipSync(files, { level: 1 });
}

/** @throws Refusal when the host is away or refuses: its present version stays live then. */
export async function sendToHost(
  endpoint: string,
  key: string,
  type: 'application/zip' | 'application/json',
  body: Uint8Array,
): Promise<void> {
  const answer = await fetch(endpoint, {
    method: 'PUT',
    body: body as Uint8Array<ArrayBuffer>,
    headers: { 'content-type': type, authorization: `Bearer ${key}` },
    signal: AbortSignal.timeout(120_000),
  }).catch(() => undefined);
  if (!answer)
    throw unreachable(
      'The web host does not answer. Nothing was published; the slip is as it was. Try again in a minute.',
    );
  if (!answer.ok)
    throw unreachable(
      `The web host refused the site (${answer.status}). Nothing was published; the slip is as it was.`,
    );
}
