import type { IncomingMessage } from 'node:http';
import { type LimitName, limits, limitText } from '../../core/limits';

/** What surrounds a file in a form, in bytes. */
const ENVELOPE = 1024 * 1024;

/**
 * How large the body of a request to the office may be: known from its length before the first byte is read. Before sign-in
 * next to nothing is taken. Whole sites, files of downloads and films go to the disk as they come.
 */
const bodies: readonly (readonly [path: RegExp, limit: LimitName])[] = [
  [/^\/api\/(account\/|welcome$)/, 'signInBody'],
  [/^\/api\/sites$|^\/api\/[^/]+\/newer$/, 'siteZip'],
  [/^\/api\/[^/]+\/files$/, 'goodsFile'],
  [/^\/api\/[^/]+\/pictures$/, 'picture'],
  [/^\/api\/[^/]+\/goods\/csv(\/take)?$/, 'table'],
];
const bare: ReadonlySet<LimitName> = new Set(['signInBody', 'formBody']);

/** The limit that holds for what is sent to an address of the office. */
export const bodyLimit = (pathname: string): LimitName =>
  bodies.find(([is]) => is.test(pathname))?.[1] ?? 'formBody';

/** Bytes of a whole request. */
export const bytesOf = (limit: LimitName): number => limits[limit].most + (bare.has(limit) ? 0 : ENVELOPE);

export interface RefusedBody {
  readonly status: 411 | 413;
  readonly title: string;
  readonly limit?: LimitName;
}

/** Why the body of a request is not taken; undefined when it is. A body that does not say how long it is is not begun. */
export function bodyRefused(
  req: Pick<IncomingMessage, 'headers'>,
  pathname: string,
): RefusedBody | undefined {
  const limit = bodyLimit(pathname);
  const length = req.headers['content-length'];
  if (length === undefined)
    return req.headers['transfer-encoding'] === undefined
      ? undefined
      : { status: 411, title: 'Say how long the request is (Content-Length); its end is not waited for.' };
  if (Number(length) <= bytesOf(limit)) return undefined;
  const title = `This is larger than what is taken here: ${limitText(limit)}. Send something smaller.`;
  return { status: 413, title, limit };
}
