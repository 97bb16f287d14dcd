import { describe, expect, it } from 'vitest';
import { mayDo } from '../core/people/roles';
import { accountRightFor, isRecorded, rightFor } from './rights';

describe('routes and rights', () => {
  it('a bookkeeper changes nothing: every route open to one only reads', () => {
    const open = Object.entries(rightFor).filter(([, right]) => mayDo('bookkeeper', right));
    expect(open.filter(([route]) => !route.startsWith('GET '))).toEqual([]);
    expect(open.length).toBeGreaterThan(4);
  });

  it('a helper writes counts and works on orders, and nothing else', () => {
    const writes = Object.entries(rightFor).filter(
      ([route, right]) => mayDo('helper', right) && !route.startsWith('GET '),
    );
    expect(writes.map(([route]) => route).sort()).toEqual([
      'POST orders/:id',
      'POST orders/:id/downloads',
      'PUT goods/:id',
    ]);
  });

  it('who else there is, is the owner’s to know and to change', () => {
    const others = Object.entries(accountRightFor).filter(([route]) =>
      /people|invitations|activity/.test(route),
    );
    expect(others).toHaveLength(6);
    for (const [, right] of others) expect(right).toBe('own');
  });

  it('nothing that only reads is written down', () => {
    expect(isRecorded('GET orders')).toBe(false);
    expect(isRecorded('POST till/try')).toBe(false);
    expect(isRecorded('POST publish')).toBe(true);
  });
});
