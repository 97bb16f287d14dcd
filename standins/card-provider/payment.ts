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
  mandate?: string;
  state: 'open' | 'approved' | 'declined';
  detail: string;
}
