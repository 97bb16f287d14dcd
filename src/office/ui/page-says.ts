import { type RefObject, useEffect, useRef } from 'react';
import { z } from 'zod';

/**
 * Pixels: pages of thousands of screens are that long, and no number is larger than browsers lay out (from
 * memory: 2^25).
 */
const px = z.number().min(-50_000_000).max(50_000_000);
const size = { x: px, y: px, w: px, h: px };

/** Where things of a framed page are, in its own pixels. */
export const layoutSaid = z.object({
  stall: z.literal('layout'),
  height: px,
  anchors: z.array(z.object({ ...size, n: z.number().int() })).max(100_000),
  widgets: z.array(z.object({ ...size, id: z.string().max(100) })).max(10_000),
  /** The block that was asked for. */
  spot: z.object(size).nullable(),
});
export type Layout = z.output<typeof layoutSaid>;

/** How the menu of a framed page stands. */
export const menuSaid = z.object({
  stall: z.literal('menu'),
  shape: z.enum(['line', 'wraps', 'stacked', 'folded']),
  rows: z.number().int().min(0).max(1_000),
  height: px,
  gap: px,
  pad: px,
  bottom: px,
  items: z.array(z.object({ text: z.string().max(500), x: px, w: px })).max(2_000),
  free: px,
  over: px,
  font: z.string().max(1_000),
  cartFits: z.boolean().optional(),
  letterSpacing: px,
});

/** A page that can be asked now. */
export const readySaid = z.object({ stall: z.literal('ready') });

/**
 * What a frame may do that holds the owner's page: its scripts run on the draft's own origin, and it is sent
 * forms. It neither leads the office elsewhere (old sites break out of frames), nor opens windows, asks
 * questions or begins downloads.
 */
export const PAGE_MAY = 'allow-scripts allow-same-origin allow-forms';

/**
 * Hears what framed pages say. The owner's scripts run in them, and may say anything: what has not the shape
 * that our own script gives it is nothing. Many frames speak at once, so what comes from others is not looked
 * at.
 * @param frames those that are heard; the one that spoke is named.
 */
export function usePageSays<T>(
  shape: z.ZodType<T>,
  frames: readonly RefObject<HTMLIFrameElement | null>[],
  hear: (said: T, frame: HTMLIFrameElement) => void,
): void {
  const now = useRef({ frames, hear });
  now.current = { frames, hear };
  useEffect(() => {
    const listen = (e: MessageEvent<unknown>) => {
      const isIts = (f: RefObject<HTMLIFrameElement | null>) => f.current?.contentWindow === e.source;
      const frame = e.source ? now.current.frames.find(isIts)?.current : undefined;
      if (!frame) return;
      const read = shape.safeParse(e.data);
      if (read.success) now.current.hear(read.data, frame);
    };
    addEventListener('message', listen);
    return () => removeEventListener('message', listen);
  }, [shape]);
}
