import type { DeliveryKind } from './delivery';

/** Into a site that only its owner can write: each piece of code is copied and pasted there (hand-out-list.ts tells which are). */
export const paste: DeliveryKind<object> = {
  deliver: async () => {},
  hashThere: () => undefined,
  byHand: true,
};
