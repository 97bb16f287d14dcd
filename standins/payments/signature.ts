import { createHmac } from 'node:crypto';

/**
 * Signs a notice as the Standard Webhooks specification says (version 1, symmetric): HMAC-SHA256 over
 * "id.timestamp.body" with the base64 key behind "whsec_", in base64 behind "v1,".
 */
export function sign(secret: string, id: string, timestamp: number, body: string): Record<string, string> {
  const key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64');
  const signature = createHmac('sha256', key).update(`${id}.${timestamp}.${body}`).digest('base64');
  return {
    'webhook-id': id,
    'webhook-timestamp': String(timestamp),
    'webhook-signature': `v1,${signature}`,
    'content-type': 'application/json',
  };
}
