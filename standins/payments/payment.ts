/** A payment as the provider keeps it; amounts in minor units. */
export interface Payment {
  readonly id: string;
  readonly reference: string;
  readonly amount: number;
  readonly currency: string;
  readonly payee: string;
  readonly description: string;
  readonly approvedUrl: string;
  readonly declinedUrl: string;
  readonly noticeUrl: string;
  /** The card may be charged again: an approved payment then has a mandate. */
  readonly again?: boolean;
  /** The shop is trying things out. */
  readonly test?: boolean;
  mandate?: string;
  state: 'open' | 'approved' | 'declined';
  detail: string;
  refunded?: number;
  /** Taken back by the shop. */
  closed?: boolean;
}

export type NoticeType =
  | 'payment.pending'
  | 'payment.approved'
  | 'payment.declined'
  | 'refund.done'
  | 'refund.failed';

/** What becomes of a payment when somebody presses something: its state, and the notices that go out, each so many seconds later and so often. */
export interface Outcome {
  readonly state: Payment['state'];
  readonly detail: string;
  readonly notices: readonly { readonly type: NoticeType; readonly late: number; readonly times?: number }[];
  /** Charges it again by this name. */
  readonly mandate?: string;
  /** Where the shopper is sent; by usage where the state leads. */
  readonly to?: string;
}
