import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FREE_TRIES, lockAfter } from './lock';
import { mayDo, rights, roles } from './roles';

describe('the lock after wrong tries', () => {
  it('grows, and never beyond an hour', () => {
    fc.assert(
      fc.property(fc.nat(100_000), (wrong) => {
        expect(lockAfter(wrong + 1)).toBeGreaterThanOrEqual(lockAfter(wrong));
        expect(lockAfter(wrong)).toBeLessThanOrEqual(3_600_000);
        expect(lockAfter(wrong) === 0).toBe(wrong < FREE_TRIES);
      }),
    );
  });

  // NIST SP 800-63B, 5.2.2: no more than 100 wrong tries in a row on one account; within a day this stays far
  // below.
  it('leaves fewer than a hundred tries in a day', () => {
    let [at, tries] = [0, 0];
    while (at < 86_400_000) at += lockAfter(++tries);
    expect(tries).toBeLessThan(40);
  });
});

describe('what people may do', () => {
  it('the owner everything', () => {
    for (const right of rights) expect(mayDo('owner', right)).toBe(true);
  });

  it('others never more than the owner, and nobody else what is the owner’s own', () => {
    for (const role of roles.filter((r) => r !== 'owner')) expect(mayDo(role, 'own')).toBe(false);
  });
});
