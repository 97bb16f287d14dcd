/**
 * The one shape for failure that is expected: a value, not an exception.
 * `E` is a discriminated union or a plain sentence a person can act on.
 */
export type Result<T, E = string> = { ok: true; value: T } | { ok: false; error: E };

/** What an error says, whatever was thrown. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
export const fail = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });
