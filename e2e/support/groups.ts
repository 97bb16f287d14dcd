/** An installation that tests need: the demo, an empty one, an empty one for owners with strangers' sites. */
export type Installation = 'demo' | 'bare' | 'strange';

interface Group {
  /** Files of the group, as globs below e2e/; the rest of the tests belong to the group without any. */
  readonly files: readonly string[];
  readonly needs: readonly Installation[];
}

/**
 * Tests that run side by side, each group on installations and ports of its own. People who type and wait leave a processor idle, so
 * that three groups on two cores take half the time of one.
 */
export const groups: Readonly<Record<string, Group>> = {
  ours: { files: [], needs: ['demo'] },
  sales: {
    files: ['**/{accounts,orders,after}.spec.ts', '**/strangers/from-nothing.spec.ts'],
    needs: ['demo', 'strange'],
  },
  strangers: {
    files: [
      '**/strangers/{checkout,checks-ill,german,ill,owners,pasted,phone}.spec.ts',
      '**/first-slice.spec.ts',
    ],
    needs: ['strange', 'bare'],
  },
};

/** The group that is run (STALL_E2E); nothing where all tests are. */
export const group = process.env.STALL_E2E;

/** Ports of a group do not meet those of another. */
export const groupNumber = group ? Object.keys(groups).indexOf(group) + 1 : 0;

/** Which files the run is of, for the settings of the test runner. */
export function filesOfRun(): { testMatch?: string[]; testIgnore?: string[] } {
  if (!group) return {};
  const files = groups[group]?.files;
  if (!files) throw new Error(`STALL_E2E is one of ${Object.keys(groups).join(', ')}, not ${group}`);
  if (files.length > 0) return { testMatch: [...files] };
  return { testIgnore: Object.values(groups).flatMap((g) => g.files) };
}
