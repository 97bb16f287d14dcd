import { provenPitches } from '../../core/placement/tree-law';
import { listPitches, type Pitch } from '../../core/site/pitch';
import type { PagePath } from '../../core/site/paths';
import { parsePageFile } from '../../core/site/read-page';
import type { RegionFact } from '../../core/site/regions';

export interface PitchTask {
  readonly path: PagePath;
  readonly bytes: Uint8Array;
  readonly regions: readonly RegionFact[];
}

/** Every pitch of one page, proven, in this thread. */
export default function pitches({ path, bytes, regions }: PitchTask): Pitch[] {
  const parsed = parsePageFile(path, bytes, regions);
  return 'page' in parsed ? provenPitches(parsed.page, listPitches(parsed.page)) : [];
}
