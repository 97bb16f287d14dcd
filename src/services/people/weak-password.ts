import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { invalid } from '../errors';

/** Shortest password; without a second factor OWASP's guidance starts at ten (from memory). */
export const SHORTEST = 10;
export const LONGEST = 128;
/** Of nought to four: three is "safely unguessable" by the library's own scale, from 10^8 guesses on. */
const STRONG_ENOUGH = 3;

/**
 * Guessing is worked out for so many characters: all 128 of a made-up one took 0.6 s on this machine, and no
 * shopper is to wait for it.
 */
const JUDGED = 40;

let estimator: ZxcvbnFactory | undefined;

/**
 * Refuses what is guessed first: passwords on the library's list of those that leaked most, keys that lie in
 * a row, and the person's own name, mail address and shop. @param own words that anybody knows of this
 * person.
 * @throws Refusal that says what to do.
 */
export function refuseWeak(password: string, own: readonly string[]): void {
  const field = { field: 'password' };
  if (password.length < SHORTEST)
    throw invalid(
      `A password has at least ${SHORTEST} characters. Four words that nobody would guess are easy to keep.`,
      field,
    );
  if (password.length > LONGEST) throw invalid(`A password has at most ${LONGEST} characters.`, field);
  estimator ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const parts = own.flatMap((text) => [text, ...text.split(/[^\p{L}\p{N}]+/u)]).filter((p) => p.length > 2);
  if (estimator.check(password.slice(0, JUDGED), parts).score < STRONG_ENOUGH)
    throw invalid(
      'This password is among those that are guessed first: on a list of leaked ones, keys in a row, or made of your name. Take four words that have nothing to do with each other.',
      field,
    );
}
