import { z } from 'zod';
import { fail, type Result } from '../result';
import type { PitchAddress } from '../site/pitch';
import { kindOf } from './kinds';
import type { WriteContext } from './kind';

const pitchAddress = z.object({
  region: z.enum(['header', 'menu', 'main', 'side', 'footer', 'page']),
  path: z.string().max(4000),
  mark: z.string(),
  before: z.string(),
  after: z.string(),
  side: z.enum(['before', 'after', 'start', 'end']),
}) satisfies z.ZodType<PitchAddress>;

/** The pages a placement appears on. */
export const reach = z.discriminatedUnion('to', [
  z.object({ to: z.literal('page'), page: z.string().min(1) }),
  z.object({ to: z.literal('pages'), pages: z.array(z.string().min(1)).min(1) }),
  z.object({ to: z.literal('every'), except: z.array(z.string()).default([]) }),
]);
export type Reach = z.infer<typeof reach>;

/** One widget at a pitch: stored, sent and published in this shape. */
export const placement = z.object({
  id: z.string().regex(/^[a-z0-9]{8,16}$/),
  kind: z.string(),
  settings: z.record(z.string(), z.unknown()),
  pitch: pitchAddress,
  pitchLabel: z.string(),
  reach,
  /** Placements at one pitch stand in this order. */
  order: z.number().int(),
});
export type Placement = z.infer<typeof placement>;

export const newPlacement = placement.omit({ id: true, order: true });
export type NewPlacement = z.infer<typeof newPlacement>;

export function reaches(r: Reach, page: string): boolean {
  if (r.to === 'page') return r.page === page;
  if (r.to === 'pages') return r.pages.includes(page);
  return !r.except.includes(page);
}

/** Checks settings by the kind's own table. */
export function checkSettings(kind: string, settings: unknown): Result<Record<string, unknown>> {
  return kindOf(kind)?.checkSettings(settings) ?? fail(`There is no widget called "${kind}" on the shelf.`);
}

/** The element spelling of a placement. Settings are stored checked; a placement that no longer fits writes nothing. */
export const writePlacement = (p: Placement, context: Omit<WriteContext, 'placementId'>): string | undefined =>
  kindOf(p.kind)?.writeElement(p.settings, { ...context, placementId: p.id });

export const describePlacement = (p: Pick<Placement, 'kind' | 'settings'>, productName: WriteContext['productName']): string =>
  kindOf(p.kind)?.describe(p.settings, productName) ?? p.kind;
