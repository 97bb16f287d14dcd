import fc from 'fast-check';
import { isRefusal } from '../../errors';
import { faultsIn } from './books';
import { type Stage, Stopped } from './stage';

/** A step of the model: what somebody does. A refusal is an answer like any other; what must hold is asked of the books. */
export type Act = fc.AsyncCommand<object, Stage>;

class Step implements Act {
  constructor(
    private readonly name: string,
    private readonly given: unknown,
    private readonly work: (stage: Stage) => Promise<void>,
  ) {}
  check(): boolean {
    return true;
  }
  async run(_: object, stage: Stage): Promise<void> {
    try {
      await this.work(stage);
    } catch (error) {
      if (!isRefusal(error) && !(error instanceof Stopped)) throw error;
    }
    // A machine that was to stop on the way stops now at the latest.
    if (stage.life !== undefined) await stage.start();
    const faults = await faultsIn(stage);
    if (faults.length) throw new Error(`after ${this.toString()}: ${faults.join('; ')}`);
  }
  toString(): string {
    return `${this.name}(${JSON.stringify(this.given)})`;
  }
}

export const step = <T>(
  name: string,
  given: fc.Arbitrary<T>,
  work: (stage: Stage, given: T) => Promise<void>,
): fc.Arbitrary<Act> => given.map((g) => new Step(name, g, (stage) => work(stage, g)));

export const MINUTE = 60_000;

/** Three shoppers, of whom one does most: what needs several steps of the same one comes about. */
export const who = fc.constantFrom(0, 0, 0, 1, 1, 2);
export const nth = fc.nat(9);
export const pick = <T>(all: readonly T[], n: number): T | undefined => all[all.length ? n % all.length : 0];

/** Where all of them live: shipping is part of the sum from the first look on. */
export const home = { country: 'GB', state: '', postcode: 'WB4 2TR' };

export const claim = (holds: boolean, otherwise: string): void => {
  if (!holds) throw new Error(otherwise);
};
