/**
 * The few ways a use case can refuse. The message is a sentence a person can act on; `detail` is for programs.
 * Endpoints turn these into RFC 9457 problem details.
 */
export class Refusal extends Error {
  override name = 'Refusal';
  constructor(
    readonly kind: 'invalid' | 'missing' | 'conflict' | 'unreachable' | 'denied',
    message: string,
    readonly detail: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

export const invalid = (message: string, detail?: Record<string, unknown>) => new Refusal('invalid', message, detail);
export const missing = (message: string) => new Refusal('missing', message);
export const conflict = (message: string, detail?: Record<string, unknown>) => new Refusal('conflict', message, detail);
export const unreachable = (message: string) => new Refusal('unreachable', message);
