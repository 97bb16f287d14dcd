import { z } from 'zod';
import { fail, type Result } from '../result';
import { landmarks } from '../site/regions';
import type { PitchAddress } from '../site/pitch';
import type { WriteContext } from './kind';
import { kindOf } from './kinds';
import { reach } from './reach';
import { spellingNames, writeSpelling } from './spelling';

const signature = z.string().max(100);
export const pitchAddress = z.object({
  region: z.enum([...landmarks, 'page']),
  path: z.string().max(4000),
  side: z.enum(['before', 'after', 'start', 'end']),
  around: z.tuple([signature, signature, signature, signature]).readonly(),
  outside: z.tuple([signature, signature]).readonly(),
  heading: signature,
  row: z.string().max(40),
  twin: z
    .string()
    .regex(/^\d+\/\d+$/)
    .default('1/1'),
  repeats: z.number().int().min(1).default(1),
  alike: z.boolean().default(false),
}) satisfies z.ZodType<PitchAddress>;

/** One widget at a pitch: stored, sent, published and planned in this shape. */
export const placement = z.object({
  id: z.string().regex(/^[a-z0-9]{8,16}$/, 'A placement is named by 8 to 16 small letters and digits.'),
  kind: z.string(),
  settings: z.record(z.string(), z.unknown()),
  spelling: z.enum(spellingNames).default('element'),
  pitch: pitchAddress,
  pitchLabel: z.string(),
  reach,
  /** Placements at one pitch stand in this order. */
  order: z.number().int(),
});
export type Placement = z.infer<typeof placement>;

export const newPlacement = placement.omit({ id: true, order: true });
/** As it comes from a view or a plan: what has a usual value may be left out. */
export type NewPlacement = z.input<typeof newPlacement>;

/** What may be changed of a placement. What is not named stays: no usual value stands in for it. */
export const placementEdit = placement
  .pick({ settings: true, spelling: true, pitch: true, pitchLabel: true, reach: true })
  .extend({ spelling: z.enum(spellingNames) })
  .partial();

/** Checks settings by the kind's own table. */
export function checkSettings(kind: string, settings: unknown): Result<Record<string, unknown>> {
  return kindOf(kind)?.checkSettings(settings) ?? fail(`There is no widget called "${kind}" on the shelf.`);
}

/** Where a widget stands, in words: what floats stands nowhere on the page. */
export const standsWhere = (p: Pick<Placement, 'settings' | 'pitchLabel'>): string =>
  p.settings.floats === true ? 'in the corner of the window' : p.pitchLabel;

/** A placement in its spelling. Settings are stored checked; a placement that no longer fits writes nothing. */
export function writePlacement(p: Placement, context: Omit<WriteContext, 'placementId'>): string | undefined {
  const inMain = p.pitch.region === 'main' || p.pitch.region === 'page';
  const full = { ...context, placementId: p.id, contentWidth: inMain ? context.contentWidth : undefined };
  const writable = kindOf(p.kind)?.writable(p.settings, full);
  return writable && writeSpelling(p.spelling, writable, full);
}

export const describePlacement = (
  p: Pick<Placement, 'kind' | 'settings'>,
  productName: WriteContext['productName'],
): string => kindOf(p.kind)?.describe(p.settings, productName) ?? p.kind;
