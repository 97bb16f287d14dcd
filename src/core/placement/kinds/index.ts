import type { WidgetKind } from '../kind';
import { buyButton } from './buy-button';
import { cart } from './cart';

/** The shelf, in its order. One line to each kind. */
export const kinds: readonly WidgetKind[] = [buyButton, cart];

export const kindOf = (kind: string): WidgetKind | undefined => kinds.find((k) => k.kind === kind);
