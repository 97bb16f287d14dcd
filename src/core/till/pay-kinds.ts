import { namesOf } from '../entries';
import type { StepText, StepWords } from '../languages/language';
import type { Goes } from './goes';

/**
 * How money comes. A kind is one entry of this table: with it a way can be set, offered, chosen, paid and told. One that goes through
 * a provider is asked for at the provider of its name, whose settings begin with STALL_ and `settings` (docs/payment-provider.md); any
 * other is an instruction that the buyer follows, and that the owner marks as paid. Keys of texts are in every language's catalogue.
 */
interface PayKindTable {
  readonly settings?: string;
  /** What shoppers read: the name, and the sentence beneath the button that orders; for instructions, what is left to do. */
  readonly name: StepText;
  readonly beneath: StepText;
  readonly lead?: StepText;
  /** Nobody waits for the money before goods are packed. */
  readonly later?: boolean;
  /** Can be charged again without its buyer: for what is charged again and again. */
  readonly again?: boolean;
  /** Needs an account to which the money goes. */
  readonly account?: boolean;
  /** Ways of bringing goods with which it can be paid; null stands for a basket that is not sent. Left out: all of them. */
  readonly goes?: readonly Goes[];
  /** What the owner reads: in the till, in what is offered at set-up, of an order, and what buyers are told at first. */
  readonly owner: {
    readonly name: string;
    readonly atSetUp: string;
    readonly ofOrder: string;
    readonly hint: string;
    readonly words?: string;
  };
}

export const payKindTable = {
  card: {
    settings: 'CARDS',
    name: 'payCard',
    beneath: 'byCard',
    again: true,
    owner: {
      name: 'Card',
      atSetUp: 'By card',
      ofOrder: 'by card',
      hint: 'On a page of the card service. The order is paid when the service says so.',
    },
  },
  wallet: {
    settings: 'WALLET',
    name: 'payWallet',
    beneath: 'byWallet',
    owner: {
      name: 'Wallet',
      atSetUp: 'By wallet',
      ofOrder: 'by wallet',
      hint: 'In the wallet’s own window. The order is paid when the wallet says so.',
    },
  },
  transfer: {
    name: 'payTransfer',
    beneath: 'byLater',
    lead: 'transferOf',
    account: true,
    owner: {
      name: 'Bank transfer',
      atSetUp: 'By bank transfer',
      ofOrder: 'by transfer',
      hint: 'The buyer is told where to send the money, with a reference that finds the order again. You mark it as paid.',
      words: 'Please transfer within seven days. We send it as soon as the money is here.',
    },
  },
  delivery: {
    name: 'payDelivery',
    beneath: 'byLater',
    lead: 'payOnDelivery',
    later: true,
    goes: ['post', 'local'],
    owner: {
      name: 'On delivery',
      atSetUp: 'On delivery',
      ofOrder: 'on delivery',
      hint: 'Whoever brings it takes the money. You mark it as paid.',
      words: 'Please have the amount ready.',
    },
  },
  person: {
    name: 'payPerson',
    beneath: 'byLater',
    lead: 'payThere',
    later: true,
    goes: ['collect', null],
    owner: {
      name: 'When it is collected',
      atSetUp: 'When it is collected',
      ofOrder: 'in person',
      hint: 'The buyer pays when they fetch it. You mark it as paid.',
      words: 'Cash or card, at the workshop.',
    },
  },
} as const satisfies Readonly<Record<string, PayKindTable>>;

export type PayKind = keyof typeof payKindTable;
export const payKinds = namesOf(payKindTable);
export const isPayKind = (name: string): name is PayKind => payKinds.some((known) => known === name);
export const payKindOf = (kind: PayKind): PayKindTable => payKindTable[kind];

/** Kinds that go through a provider; the provider has the kind's name. */
export type ProviderName = {
  [K in PayKind]: (typeof payKindTable)[K] extends { readonly settings: string } ? K : never;
}[PayKind];

/** Whether a kind goes through a provider. */
export const viaProvider = (kind: PayKind): kind is ProviderName => payKindOf(kind).settings !== undefined;
export const providerNames = payKinds.filter(viaProvider);
/** Whether a name, as a payment or an address gives it, is a provider's. */
export const isProvider = (name: string): name is ProviderName =>
  providerNames.some((known) => known === name);

/** Nobody waits for the money before goods are packed. */
export const paysLater = (kind: PayKind): boolean => payKindOf(kind).later === true;

/** How a way to pay is called: as the owner named it, or by its kind. */
export const payName = (way: { readonly kind: PayKind; readonly name: string }, w: StepWords): string =>
  way.name || w[payKindOf(way.kind).name];
