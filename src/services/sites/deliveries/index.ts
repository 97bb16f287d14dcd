import type { DeliveryKind } from './delivery';
import { download } from './download';
import { folder } from './folder';
import { host } from './host';
import { paste } from './paste';

/** One line to each way in which publications go out. */
const deliveries = { folder, host, download, paste };

type Table = typeof deliveries;
export type DeliveryName = keyof Table;
type ToOf<K> = K extends DeliveryKind<infer To> ? To : never;
/** Where a site's publications go. */
export type Delivery = { [N in DeliveryName]: { readonly to: N } & ToOf<Table[N]> }[DeliveryName];

/** The compiler cannot follow through a union which place belongs to which name; the table says it. */
export const deliveryOf = (delivery: Delivery): DeliveryKind<object> =>
  deliveries[delivery.to] as DeliveryKind<object>;
