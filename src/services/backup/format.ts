import { z } from 'zod';

/** What a backup is: a tar archive (POSIX.1-2001, pax), packed by gzip, with these in this order. docs/backup.md tells it to people. */
export const FORMAT = 1;
export const MANIFEST = 'backup.json';
export const DATABASE = 'stall.db';
export const SECRETS = 'secrets.sealed';
export const blobName = (hash: string): string => `blobs/${hash.slice(0, 2)}/${hash}`;

/** Last in the archive, because it tells what came before it: a backup without one was cut off. */
export const manifestSchema = z.object({
  format: z.literal(FORMAT),
  /** ISO 8601; what is in it is as it was then. */
  at: z.iso.datetime(),
  /** Migrations that the database has: an older program cannot read it. */
  migrations: z.number().int().nonnegative(),
  database: z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), bytes: z.number().int().positive() }),
  blobs: z.object({ count: z.number().int().nonnegative(), bytes: z.number().int().nonnegative() }),
  /** Whether the secrets are in it, sealed. */
  secrets: z.boolean(),
});
export type BackupManifest = z.infer<typeof manifestSchema>;

/** The hash that a blob's name in the archive says; nothing for any other name. */
export const hashOf = (name: string): string | undefined => {
  const [, hash] = /^blobs\/[0-9a-f]{2}\/([0-9a-f]{64})$/.exec(name) ?? [];
  return hash !== undefined && name === blobName(hash) ? hash : undefined;
};
