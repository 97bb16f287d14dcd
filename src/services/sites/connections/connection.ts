import type { PagePath } from '../../../core/site/paths';
import type { Manifest } from '../../../data/schema/site';
import type { Ctx } from '../../context';

/** Takes one file of a site as it is read. */
export type OnFile = (path: PagePath, bytes: Buffer) => Promise<void>;
/** Paths and hashes of what was read, in its order. */
export type Kept = readonly (readonly [PagePath, string])[];

/**
 * A way in which sites are brought in and read again: one file like its neighbours and one line in index.ts. `Origin` is what is handed
 * in, `Known` what is remembered of it, as JSON.
 */
export interface ConnectionKind<Origin extends object, Known extends object> {
  readonly remembered: (origin: Origin) => Known;
  /** Reads every file. @returns what the owner should know of it. @throws Refusal when it cannot be read. */
  readonly read: (ctx: Ctx, origin: Origin, onFile: OnFile) => Promise<string[]>;
  /** Files as they stand on the site. */
  readonly arranged: (kept: Kept) => Kept;
  /** Why a site cannot be connected beside one that is; nothing where it can. */
  readonly refusal: (origin: Origin, known: Known) => string | undefined;
  /** The folder that publications go back to; nothing where they go elsewhere. */
  readonly folder: (known: Known) => string | undefined;
  /** What the web host is sent so that it shows the site as it is. */
  readonly forHost: (ctx: Ctx, origin: Origin, manifest: Manifest) => Promise<ForHost>;
  /** The same again from what is remembered; nothing where it has to be handed in each time. */
  readonly again: (known: Known) => Origin | undefined;
  /** What the owner is told where it has to be handed in. */
  readonly handIn: string;
}

export interface ForHost {
  readonly type: 'application/zip' | 'application/json';
  readonly body: Uint8Array;
}
