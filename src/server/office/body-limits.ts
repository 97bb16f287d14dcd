import type { IncomingMessage } from 'node:http';
import { MAX_FILE } from '../../core/goods/downloads';
import { SITE_ZIP } from '../../services/sites/take-upload';

const KB = 1024;
const MB = 1024 * KB;

/**
 * How large the body of a request to the office may be, in bytes: known from its length before the first byte is read. Before
 * sign-in next to nothing is taken. Whole sites, files of downloads and films go to the disk as they come.
 */
export const bodyLimits = {
  'sign-in': 16 * KB,
  form: 4 * MB,
  picture: 21 * MB,
  'table of goods': 61 * MB,
  'file of a download': MAX_FILE + MB,
  'ZIP of a site': SITE_ZIP + MB,
} as const;
export type BodyKind = keyof typeof bodyLimits;

const kinds: readonly (readonly [RegExp, BodyKind])[] = [
  [/^\/api\/(auth\/|welcome$)/, 'sign-in'],
  [/^\/api\/sites$|^\/api\/[^/]+\/newer$/, 'ZIP of a site'],
  [/^\/api\/[^/]+\/files$/, 'file of a download'],
  [/^\/api\/[^/]+\/pictures$/, 'picture'],
  [/^\/api\/[^/]+\/goods\/csv(\/take)?$/, 'table of goods'],
];

export const bodyKind = (pathname: string): BodyKind =>
  kinds.find(([is]) => is.test(pathname))?.[1] ?? 'form';

export interface TooLarge {
  readonly status: 411 | 413;
  readonly title: string;
}

/** Why the body of a request is not taken; undefined when it is. A body that does not say how long it is is not begun. */
export function bodyRefused(req: Pick<IncomingMessage, 'headers'>, pathname: string): TooLarge | undefined {
  const kind = bodyKind(pathname);
  const length = req.headers['content-length'];
  if (length === undefined)
    return req.headers['transfer-encoding'] === undefined
      ? undefined
      : { status: 411, title: 'Say how long the request is (Content-Length); its end is not waited for.' };
  if (Number(length) <= bodyLimits[kind]) return undefined;
  return {
    status: 413,
    title: `This is larger than a ${kind} may be: ${sizeText(bodyLimits[kind])}. Send something smaller.`,
  };
}

const sizeText = (bytes: number): string =>
  bytes < MB ? `${Math.round(bytes / KB)} KB` : `${Math.round(bytes / MB)} MB`;
