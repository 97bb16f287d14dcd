import { type LimitName, limits } from '../core/limits';
import { AmountTooLarge } from '../core/money/minor';

/**
 * The few ways a use case can refuse. The message is a sentence a person can act on; `detail` is for programs.
 * Endpoints turn these into RFC 9457 problem details.
 */
export class Refusal extends Error {
  override name = 'Refusal';
  constructor(
    readonly kind:
      | 'invalid'
      | 'missing'
      | 'conflict'
      | 'unreachable'
      | 'denied'
      | 'too-large'
      | 'locked'
      | 'signed-out',
    message: string,
    readonly detail: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

/** More came than is taken: which limit, its figure and its unit are told to programs as well. */
export class BeyondLimit extends Refusal {
  constructor(
    readonly limit: LimitName,
    message: string,
  ) {
    super('too-large', message, { limit, ...limits[limit] });
  }
}

export const invalid = (message: string, detail?: Record<string, unknown>) =>
  new Refusal('invalid', message, detail);
export const missing = (message: string) => new Refusal('missing', message);
export const conflict = (message: string, detail?: Record<string, unknown>) =>
  new Refusal('conflict', message, detail);
export const unreachable = (message: string) => new Refusal('unreachable', message);

const statusOf = {
  invalid: 422,
  missing: 404,
  conflict: 409,
  unreachable: 502,
  denied: 403,
  'too-large': 413,
  locked: 429,
  'signed-out': 401,
} as const;

/** By name, not by class: the framework's pages come in a bundle of their own. */
export const isRefusal = (e: unknown): e is Refusal =>
  e instanceof Error && e.name === 'Refusal' && 'kind' in e;

/** RFC 9457 problem details; `fields` says of each field what is wrong with it. */
export interface Problem {
  readonly title: string;
  readonly status: number;
  readonly fields?: Readonly<Record<string, string>>;
  readonly [more: string]: unknown;
}

/** RFC 9457 problem details: a sentence a person can act on, and data for programs. Never the inside of a bug. */
export function problemOf(error: unknown): { status: number; body: Problem } {
  if (isRefusal(error))
    return {
      status: statusOf[error.kind],
      body: { title: error.message, status: statusOf[error.kind], ...error.detail },
    };
  if (error instanceof AmountTooLarge) return { status: 422, body: { title: error.message, status: 422 } };
  return {
    status: 500,
    body: { title: 'Something went wrong on our side. Nothing was changed; please try again.', status: 500 },
  };
}
