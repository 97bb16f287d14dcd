import type { WidgetKind } from '../kind';
import { buyButton } from './buy-button';
import { cart } from './cart';

/** The shelf, in its order. One line to each kind. */
export const kinds: readonly WidgetKind<never>[] = [buyButton, cart];

export const kindOf = (kind: string): WidgetKind<never> | undefined => kinds.find((k) => k.kind === kind);
