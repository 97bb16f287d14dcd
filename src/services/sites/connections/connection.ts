import type { PagePath } from '../../../core/site/paths';
import type { Manifest } from '../../../data/schema/site';
import type { Ctx } from '../../context';
import type { LiveReading, Validator } from '../../reading/live/read-live';
import type { Delivery } from '../deliveries';

/** Takes one file of a site as it is read. */
export type OnFile = (path: PagePath, bytes: Buffer) => Promise<void>;
/** Told how far reading is; may stop it by throwing. */
export type Progress = (what: string, done: number, all: number) => void;

/** What came with the files. */
export interface CameWith {
  /** What the owner should know, in sentences. */
  readonly notes: readonly string[];
  /** Of a site that was read over the network: what its server said of it. */
  readonly live?: Omit<LiveReading, 'notes'> | undefined;
}

/** The site as it was read before, for what has not changed since. */
export interface ReadBefore {
  readonly manifest: Manifest;
  readonly validators: Readonly<Record<string, Validator>>;
}

/** Paths and hashes of what was read, in its order. */
export type Kept = readonly (readonly [PagePath, string])[];

/** Where what is read goes, and what it is read over. */
export interface ReadTo {
  readonly onFile: OnFile;
  readonly progress: Progress;
  readonly before?: ReadBefore | undefined;
}

/**
 * A way in which sites are brought in and read again: one file like its neighbours and one line in index.ts. `Origin` is what is handed
 * in, `Known` what is remembered of it, as JSON.
 */
export interface ConnectionKind<Origin extends object, Known extends object> {
  readonly remembered: (origin: Origin) => Known;
  /** Reads every file. @throws Refusal when it cannot be read. */
  readonly read: (ctx: Ctx, origin: Origin, to: ReadTo) => Promise<CameWith>;
  /** Files as they stand on the site. */
  readonly arranged: (kept: Kept) => Kept;
  /** Why a site cannot be connected beside one that is; nothing where it can. */
  readonly refusal: (origin: Origin, known: Known) => string | undefined;
  /** Where publications go; nothing where that is asked of the settings: the web host, or a ZIP to carry. */
  readonly delivery: (known: Known) => Delivery | undefined;
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
