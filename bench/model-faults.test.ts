import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { faults } from './model-faults';

it.each(faults)(
  '$what: its text stands just once in its file, and is another when it is put back',
  (fault) => {
    expect(readFileSync(fault.file, 'utf8').split(fault.from)).toHaveLength(2);
    expect(fault.to).not.toBe(fault.from);
  },
);
