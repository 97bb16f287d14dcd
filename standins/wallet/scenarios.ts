import type { Outcome } from '../payments/payment';

/** How the make-believe wallet behaves, chosen by whoever tries it: real ones do all of this without being asked. */
export const scenarios = {
  approve: {
    label: 'Pay',
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
    label: 'Pay; the notice comes 8 seconds late',
    outcome: { state: 'approved', detail: 'wallet', notices: [{ type: 'payment.approved', late: 8 }] },
  },
  twice: {
    label: 'Pay; the notice comes twice',
    outcome: {
      state: 'approved',
      detail: 'wallet',
      notices: [{ type: 'payment.approved', late: 0, times: 2 }],
    },
  },
  disorder: {
    label: 'Pay; notices come out of order',
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
  never: {
    label: 'Pay; no notice ever comes',
    outcome: { state: 'approved', detail: 'wallet', notices: [] },
  },
  decline: {
    label: 'Refuse',
    outcome: {
      state: 'declined',
      detail: 'The wallet refused',
      notices: [{ type: 'payment.declined', late: 0 }],
    },
  },
} as const satisfies Record<string, { label: string; outcome: Outcome }>;

export type Scenario = keyof typeof scenarios;
export const isScenario = (text: string): text is Scenario => text in scenarios;
