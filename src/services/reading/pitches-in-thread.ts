import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { provenPitches } from '../../core/placement/tree-law';
import { listPitches, type Pitch } from '../../core/site/pitch';
import type { ParsedPage } from '../../core/site/read-page';
import type { PitchTask } from './pitch-worker';

/** Pages smaller than this, in bytes, are done sooner than a thread starts. */
const SMALL = 150_000;
/** How long an idle thread is kept, in milliseconds: an owner goes from page to page. */
const IDLE_MS = 60_000;

const worker = fileURLToPath(new URL('../workers/pitches.js', import.meta.url));
let pool: Piscina | undefined;

/** Every pitch of a page, proven; of a long one in a thread, so that shoppers are answered meanwhile. */
export async function pitchesInThread(page: ParsedPage): Promise<Pitch[]> {
  if (page.source.bytes.length < SMALL || !existsSync(worker)) return provenPitches(page, listPitches(page));
  pool ??= new Piscina({ filename: worker, minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MS });
  const task: PitchTask = { path: page.path, bytes: page.source.bytes, regions: page.regions ?? [] };
  return (await pool.run(task)) as Pitch[];
}
