import { z } from 'zod';
import type { Found } from './found/found';
import { ground, sources } from './found/sources';
import { type Look, lookOf } from './look';
import { type LookPlan, ownCssOf } from './plan';
import { shapeOf } from './shape';
import { wear, type Worn } from './wear';

const scheme = z.object({ sources, grounds: z.array(ground) });

/** What a look is made over: what was found of a site, without pictures and places. */
export const wardrobe = z.object({ ...scheme.shape, dark: scheme.nullable() });
export type Wardrobe = z.infer<typeof wardrobe>;

export const wardrobeOf = ({ sources: own, grounds, dark }: Found): Wardrobe => ({
  sources: own,
  grounds,
  dark,
});

/** The look by day and, where the site has one, by night, with every proof. */
export interface Dressed {
  readonly light: Worn;
  readonly dark: Worn | undefined;
  readonly look: Look;
}

/** Puts the shop into what was decided over what was found. */
export function dress(own: Wardrobe, plan: LookPlan): Dressed {
  const light = wear(own, plan);
  // What the site says nothing of by night is as it is by day: faces, sizes, corners.
  const dark = own.dark
    ? wear(
        { sources: { ...own.sources, ...own.dark.sources }, grounds: own.dark.grounds },
        withoutFreeColours(plan),
      )
    : undefined;
  const [root, size] = [Number(own.sources.root) || 16, Number(own.sources['text-size']) || 16];
  return {
    light,
    dark,
    look: lookOf(light, { root, size, shape: shapeOf(plan), css: ownCssOf(plan) }, dark),
  };
}

/** Colours that the owner set for the day are none for the night. */
const withoutFreeColours = (plan: LookPlan): LookPlan =>
  Object.fromEntries(
    Object.entries(plan).filter(
      ([name, value]) =>
        !(typeof value === 'object' && 'free' in value && value.free.startsWith('#')) &&
        !name.startsWith('pin:'),
    ),
  );
