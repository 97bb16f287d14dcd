/** How goods come to a buyer: by post, brought round here, or fetched. */
export const shippingKinds = ['post', 'local', 'collect'] as const;
export type ShippingKind = (typeof shippingKinds)[number];
/** How what is sent goes out; null where nothing is sent. */
export type Goes = ShippingKind | null;
