import { limits } from '../limits';
import { compareCodes } from '../compare';
import { numberFormat } from '../intl';
import { z } from 'zod';

/**
 * What a download is made of: releases, each with its files and what is new in it, and the rule under which buyers may
 * fetch them. The rule is the product's own as it is today: an owner who widens it helps those who bought before.
 */

/** Largest file of a download, in bytes: 2 GB (decimal, as file managers count). */
export const MAX_FILE = limits.goodsFile.most;

const line = (most: number) => z.string().trim().max(most, `At most ${most} characters fit here.`);

export const keptFile = z.object({
  /** SHA-256 of the bytes, by which they are kept. */
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'This is no file that was kept.'),
  /** As the buyer saves it. */
  name: line(200)
    .min(1, 'A file needs a name.')
    .regex(/^[^/\\\p{Cc}]+$/u, 'A file\u2019s name has no slashes.'),
  /** Bytes. */
  size: z.number().int().min(0).max(MAX_FILE, 'A file has at most 2 GB.'),
});

const release = z.object({
  name: line(40).min(1, 'A release needs a name, like 1.0.'),
  /** Day it came out, "2026-11-25". */
  date: z.iso.date('Enter the day it came out.'),
  /** What is new, as rich text. */
  notes: z.string().trim().max(20_000).default(''),
  /** `only`: a value of an option, for which alone the file is meant; '' for every buyer. */
  files: z
    .array(keptFile.extend({ only: line(60).default('') }))
    .max(30, 'A release has at most 30 files.')
    .default([]),
});

export const downloads = z.object({
  /** Times each file may be fetched for each piece bought; null for as often as wished. */
  limit: z
    .number('Enter a whole number.')
    .int('Enter a whole number.')
    .min(1, 'Once at least.')
    .max(1_000)
    .nullable()
    .default(5),
  /** Days after paying; null for ever. */
  days: z
    .number('Enter whole days.')
    .int('Enter whole days.')
    .min(1, 'One day at least.')
    .max(3_650)
    .nullable()
    .default(null),
  releases: z.array(release).max(100, 'At most a hundred releases.').default([]),
});

export type Downloads = z.output<typeof downloads>;
export type Release = Downloads['releases'][number];
export type ReleaseFile = Release['files'][number];
export type KeptFile = z.output<typeof keptFile>;

export const noDownloads: Downloads = downloads.parse({});

/** Releases, the newest first; of one day, the one that stands first. */
export const newestFirst = (d: Downloads): Release[] =>
  [...d.releases].sort((a, b) => compareCodes(b.date, a.date));

/** Files of a release that a buyer of this choice may have. */
export const filesFor = (r: Release, values: readonly string[]): ReleaseFile[] =>
  r.files.filter((f) => f.only === '' || values.includes(f.only));

export interface Bought {
  /** When it was paid, or when the owner let the buyer begin anew; milliseconds since 1970. */
  readonly since: number;
  readonly quantity: number;
}

export type MayFetch =
  | { readonly may: true; readonly left: number | null; readonly until: number | null }
  | { readonly may: false; readonly why: 'used' | 'over' };

const DAY = 86_400_000;

/** Whether a file may be fetched (again). @param starts how often it was begun since. */
export function mayFetch(
  d: Pick<Downloads, 'limit' | 'days'>,
  bought: Bought,
  starts: number,
  now: number,
): MayFetch {
  const until = d.days === null ? null : bought.since + d.days * DAY;
  if (until !== null && now >= until) return { may: false, why: 'over' };
  const left = d.limit === null ? null : d.limit * bought.quantity - starts;
  return left !== null && left <= 0 ? { may: false, why: 'used' } : { may: true, left, until };
}

/** A file's size for people, in the decimal units of file managers (ISO 80000-13 keeps "kB" for 1,000). */
export function sizeWords(bytes: number, locale: string): string {
  const [n, unit] = inUnits(bytes);
  return numberFormat(locale, { style: 'unit', unit, maximumFractionDigits: n < 10 ? 1 : 0 }).format(n);
}

function inUnits(bytes: number): readonly [number, 'kilobyte' | 'megabyte' | 'gigabyte'] {
  if (bytes < 1_000_000) return [Math.max(1, bytes / 1_000), 'kilobyte'];
  if (bytes < 1_000_000_000) return [bytes / 1_000_000, 'megabyte'];
  return [bytes / 1_000_000_000, 'gigabyte'];
}
