import { z } from 'zod';

const hex = z.string().regex(/^#[0-9a-f]{6}$/);

/** How one widget stood in a real page, in CSS pixels. */
export const seenWidget = z.object({
  placement: z.string().max(40),
  kind: z.string().max(40),
  x: z.number(),
  y: z.number(),
  width: z.number(),
  height: z.number(),
  /** Width of what it stands in. */
  column: z.number(),
  /** What lies over its middle: a few words; '' for nothing. */
  coveredBy: z.string().max(120),
  /** What it lies over, as that. Only carts are asked. */
  covers: z.string().max(120).default(''),
  /** How a cart would stand in other spots of the header, and as -1 where it stands: see cart-spot.ts. */
  spots: z
    .array(
      z.object({
        n: z.number().int().min(-1).max(50),
        /** It is drawn, at the head of the page. */
        shows: z.boolean(),
        /** It runs out of the window. */
        leaves: z.boolean(),
        /** It lies over other things, or they over it. */
        overlaps: z.boolean(),
        /** Pixels that the page or its header is taller. */
        grows: z.number(),
        /** Things of the header that come to stand in another row. */
        moves: z.number().int().min(0),
        /** It, or what it pushes, runs over the edge of what it stands in. */
        spills: z.boolean(),
        /** Nothing of the header stands in its row. */
        apart: z.boolean(),
      }),
    )
    .max(20)
    .default([]),
  /** Its buttons and links that are smaller than 24 by 24. */
  smallTargets: z.number().int().min(0),
  /** Pixels that what it stands in is taller for it. */
  grows: z.number(),
  /** Pixels of what is in a frame that lie below its edge. */
  hides: z.number(),
  /** Pixels it pushed what stands below it while it loaded. */
  shifted: z.number(),
});

/** What a browser saw of one page at one width. */
export const seenAtWidth = z.object({
  width: z.number().int(),
  pageWidth: z.number(),
  widgets: z.array(seenWidget).max(200),
  /** Rows that the menu takes, none where it is no row, and whether a piece of it is cut off; and the same on the owner's own page. */
  menuRows: z.number().int().min(0),
  menuRowsBefore: z.number().int().min(0),
  menuCut: z.boolean(),
  menuCutBefore: z.boolean(),
  /** Letters of its items and what they stand on, each as #rrggbb; none where a picture lies behind. */
  menuColours: z.array(z.object({ ink: hex, ground: hex })).max(12),
});

/** What a browser saw of one page. `version`: of the page as it was written then. */
export const seenPage = z.object({
  path: z.string().max(1000),
  version: z.string().max(100),
  at: z.array(seenAtWidth).max(5),
  /** Fonts of the site that did not load. */
  fontsMissing: z.array(z.string().max(100)).max(20),
});
export type SeenPage = z.infer<typeof seenPage>;
export type SeenAtWidth = z.infer<typeof seenAtWidth>;
