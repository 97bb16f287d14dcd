import { packZip, sendToHost } from '../host';
import type { DeliveryKind } from './delivery';

/** To a web host that takes a ZIP over HTTP (docs/web-host.md). */
export const host: DeliveryKind<{ readonly endpoint: string; readonly key: string }> = {
  deliver: async (ctx, { endpoint, key }, { manifest }) =>
    sendToHost(endpoint, key, 'application/zip', await packZip(ctx, manifest)),
  hashThere: () => undefined,
  byHand: false,
};
