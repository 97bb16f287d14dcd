import type { Outcome } from '../payments/payment';

/** How the make-believe wallet behaves, chosen by whoever tries it: real ones do all of this without being asked. */
export const moods = {
  approve: {
    says: 'Pay',
    outcome: {
      state: 'approved',
      detail: 'wallet',
      notices: [
        { type: 'payment.pending', late: 0 },
        { type: 'payment.approved', late: 0.2 },
      ],
    },
  },
  late: {
    says: 'Pay; the notice comes 8 seconds late',
    outcome: { state: 'approved', detail: 'wallet', notices: [{ type: 'payment.approved', late: 8 }] },
  },
  twice: {
    says: 'Pay; the notice comes twice',
    outcome: {
      state: 'approved',
      detail: 'wallet',
      notices: [{ type: 'payment.approved', late: 0, times: 2 }],
    },
  },
  disorder: {
    says: 'Pay; notices come out of order',
    outcome: {
      state: 'approved',
      detail: 'wallet',
      notices: [
        { type: 'payment.approved', late: 0 },
        { type: 'payment.pending', late: 1 },
        { type: 'payment.declined', late: 2 },
      ],
    },
  },
  never: { says: 'Pay; no notice ever comes', outcome: { state: 'approved', detail: 'wallet', notices: [] } },
  decline: {
    says: 'Refuse',
    outcome: {
      state: 'declined',
      detail: 'The wallet refused',
      notices: [{ type: 'payment.declined', late: 0 }],
    },
  },
} as const satisfies Record<string, { says: string; outcome: Outcome }>;

export type Mood = keyof typeof moods;
export const isMood = (text: string): text is Mood => text in moods;
