import { creditorReference, inFours } from '../../core/till/creditor-reference';
import { type PayKind, payKindOf, type ProviderName, viaProvider } from '../../core/till/pay-kinds';
import type { StepWords } from '../../core/languages/languages';
import type { TillRules } from '../../core/till/rules';
import type { orders } from '../../data/schema';

export interface Instruction {
  /** How the way is called; '' where the owner gave it no name. */
  readonly kind: Exclude<PayKind, ProviderName>;
  readonly name: string;
  /** The owner's words. */
  readonly words: string;
  /** What has to be copied exactly. */
  readonly rows: readonly { readonly label: string; readonly value: string }[];
}

/** What a buyer has to do so that the money comes; nothing where a provider took it, or it is here already. */
export function instructionOf(
  rules: TillRules,
  order: Pick<typeof orders.$inferSelect, 'state' | 'payBy' | 'number'>,
  w: StepWords,
): Instruction | null {
  const way = rules.pay.ways.find((w) => w.id === order.payBy);
  if (order.state !== 'placed' || !way || viaProvider(way.kind)) return null;
  const rows = payKindOf(way.kind).account
    ? [
        ...(way.iban ? [{ label: 'IBAN', value: inFours(way.iban) }] : []),
        { label: w.reference, value: inFours(creditorReference(String(order.number ?? 0))) },
      ]
    : [];
  return { kind: way.kind, name: way.name, words: way.words, rows };
}
