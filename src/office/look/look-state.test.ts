import { describe, expect, it } from 'vitest';
import { isEmpty } from '../../core/change';
import { begin, reduce } from './look-state';

const free = (value: string) => ({ free: value });

describe('work on the look', () => {
  it('keeps what was decided, as one step to a movement of the hand, and undoes it', () => {
    let s = begin({});
    for (const value of ['#111111', '#222222', '#333333'])
      s = reduce(s, { do: 'decide', name: 'tie:accent', value: free(value), goesOn: value !== '#111111' });
    expect(s.decisions).toEqual({ 'tie:accent': free('#333333') });
    expect(s.done).toHaveLength(1);
    s = reduce(s, { do: 'decide', name: 'tie:ink', value: free('#444444') });
    s = reduce(s, { do: 'undo' });
    expect(s.decisions).toEqual({ 'tie:accent': free('#333333') });
    s = reduce(s, { do: 'undo' });
    expect(s.decisions).toEqual({});
    s = reduce(reduce(s, { do: 'redo' }), { do: 'redo' });
    expect(s.decisions).toEqual({ 'tie:accent': free('#333333'), 'tie:ink': free('#444444') });
    // A new decision ends what could be done again.
    s = reduce(reduce(s, { do: 'undo' }), { do: 'decide', name: 'as:button', value: 'site' });
    expect(reduce(s, { do: 'redo' })).toBe(s);
  });

  it('sends what came to be, not each step; what was taken back before it was sent is not sent', () => {
    let s = reduce(begin({ 'tie:ink': free('#000000') }), {
      do: 'decide',
      name: 'tie:accent',
      value: free('#111111'),
    });
    s = reduce(s, { do: 'decide', name: 'tie:accent', value: undefined });
    expect(isEmpty(s.unsent)).toBe(true);
    s = reduce(s, { do: 'decide', name: 'tie:ink', value: undefined });
    expect(Object.keys(s.unsent.removed)).toEqual(['tie:ink']);
    expect(isEmpty(reduce(s, { do: 'send' }).unsent)).toBe(true);
    // Deciding what is decided already is nothing.
    expect(reduce(s, { do: 'decide', name: 'tie:ink', value: undefined })).toBe(s);
  });

  it('lets in what was changed elsewhere, but not over what is on its way', () => {
    const s = reduce(begin({}), { do: 'decide', name: 'tie:accent', value: free('#111111') });
    expect(reduce(s, { do: 'refresh', decisions: {} }).decisions).toEqual(s.decisions);
    // What the server says of an earlier change is older than what is on its way.
    const onItsWay = reduce(s, { do: 'send' });
    expect(reduce(onItsWay, { do: 'refresh', decisions: {} }).decisions).toEqual(s.decisions);
    const sent = reduce(onItsWay, { do: 'sent' });
    expect(reduce(sent, { do: 'refresh', decisions: { css: 'x' } }).decisions).toEqual({ css: 'x' });
  });
});
