import fc from 'fast-check';
import type { Stage } from './stage';
import { type Act, step } from './step';
import { add, addWithSameKey, change, code, pay, payInTwoTabs } from './shopper-acts';
import {
  anotherCard,
  approve,
  cheat,
  comeBack,
  decline,
  deliver,
  later,
  payEveryPage,
  payTooLate,
  payWhole,
  providerIs,
  sweep,
  transferAfterAll,
} from './payment-acts';
import {
  acceptAndTakeBack,
  codeAtTheLine,
  giveSurplusBack,
  morePieces,
  ownerActs,
  price,
  refundAmount,
  refundPieces,
  rules,
} from './owner-acts';

/** The machine stops after some writes of whatever comes next, or right here; it starts again on what is on the disk. */
const restart = step('restart', fc.constant(null), (stage) => stage.start());

const stopWithin = (inner: fc.Arbitrary<Act>): fc.Arbitrary<Act> =>
  fc.tuple(inner, fc.nat(3)).map(([act, writes]) => ({
    check: () => true,
    async run(model: object, stage: Stage) {
      stage.life = writes;
      await act.run(model, stage);
    },
    toString: () => `stopped after ${writes} writes of ${act.toString()}`,
  }));

/** Acts with how often each is drawn, beside the others. */
const weights: readonly (readonly [number, fc.Arbitrary<Act>])[] = [
  [8, add],
  [3, change],
  [6, code],
  [7, pay],
  [5, payWhole],
  [5, payInTwoTabs],
  [3, payEveryPage],
  [1, addWithSameKey],
  [6, approve],
  [2, decline],
  [7, deliver],
  [2, comeBack],
  [3, later],
  [2, sweep],
  [2, providerIs],
  [4, cheat],
  [3, payTooLate],
  [3, anotherCard],
  [2, transferAfterAll],
  [2, codeAtTheLine],
  [2, refundPieces],
  [3, refundAmount],
  [4, ownerActs],
  [2, acceptAndTakeBack],
  [2, giveSurplusBack],
  [1, price],
  [1, morePieces],
  [1, rules],
  [1, restart],
  [3, stopWithin(pay)],
  [2, stopWithin(fc.oneof(payWhole, deliver, refundAmount, refundPieces, ownerActs, giveSurplusBack))],
];

export const acts = fc.oneof(...weights.map(([weight, arbitrary]) => ({ weight, arbitrary })));
