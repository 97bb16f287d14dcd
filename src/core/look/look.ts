import { z } from 'zod';

const hex = z.string().regex(/^#[0-9a-f]{6}$/);

/** The shop's design tokens. Colours are sRGB hex, fonts CSS family lists, sizes CSS lengths. */
export const look = z.object({
  ground: hex,
  ink: hex,
  muted: hex,
  line: hex,
  field: hex,
  fieldLine: hex,
  surface: hex,
  accent: hex,
  accentInk: hex,
  link: hex,
  danger: hex,
  font: z.string(),
  headingFont: z.string(),
  headingWeight: z.string(),
  radius: z.string(),
  width: z.string(),
  /** A rem of ours, 16 px, on the site. */
  rem: z.string().default('1rem'),
});
export type Look = z.infer<typeof look>;

/** The tokens as custom properties, the way the shop's style sheet wants them. */
export function lookCss(l: Look): string {
  return Object.entries(l)
    .map(([name, value]) => `--stall-${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}:${value}`)
    .join(';');
}
