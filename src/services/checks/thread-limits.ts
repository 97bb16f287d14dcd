import type { ResourceLimits } from 'node:worker_threads';

/**
 * What a thread of the checks may take: beyond the old generation's limit a run fails, and nothing else does. The young one
 * has room for some pages' trees: they are gone with their page, and need not be moved before (measured by bin/bench checks-
 * speed).
 */
export const threadLimits: ResourceLimits = { maxOldGenerationSizeMb: 1_024, maxYoungGenerationSizeMb: 96 };
