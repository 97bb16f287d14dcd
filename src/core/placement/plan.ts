import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import { landmarks } from '../site/regions';
import { menuChange } from './menu-change';
import { repair } from './repair';
import { checkSettings, placement } from './placement';

/** The owner's word on where a region of some pages is; as regions.ts writes it. */
const regionWord = z.object({
  pages: z.array(z.string().min(1)).min(1),
  region: z.enum(landmarks),
  path: z.string().max(4000),
  from: z.number().int().min(0).optional(),
  to: z.number().int().min(0).optional(),
});

const webAddress = z.url({ protocol: /^https?$/, error: 'Enter a whole address, with https:// in front.' });

/**
 * Everything Green Stall does to a site, as data: the same that the application stores. The published pages are
 * computed from the owner's files and this.
 */
export const plan = z.object({
  version: z.literal(1),
  shop: z.object({
    /** Where the shop's widgets ask and its ordinary pages stand: "https://shop.example/withybed". */
    url: webAddress,
    /** The one script; by default stall.js at the root of the shop's host. */
    script: webAddress.optional(),
    /** The site's own cart page, as an address of the site. */
    cart: z.string().default('/cart/'),
    /** Path on the owner's host under which server-side includes find the shop. */
    include: z.string().startsWith('/').default('/stall'),
    /** Names of products by slug, for what stands in the page before the script has run. */
    goods: z.record(z.string(), z.string()).default({}),
  }),
  placements: z.array(placement).default([]),
  menu: z.array(menuChange).default([]),
  /** Small changes of the owner's own pages. */
  repairs: z.array(repair).default([]),
  /** The shop's pages that are built into the site; none by default. */
  shopPages: z
    .array(z.enum(['shop', 'cart', 'checkout', 'thanks', 'failed', 'lookup', 'account']))
    .default([]),
  regions: z.array(regionWord).default([]),
});
export type Plan = z.infer<typeof plan>;

/** Reads a plan and checks every placement by its widget's own table. Says what is wrong, and where. */
export function readPlan(data: unknown): Result<Plan> {
  const parsed = plan.safeParse(data);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return fail(
      `the plan does not fit at ${issue?.path.join('.') || 'its top'}: ${issue?.message ?? 'it is no plan'}`,
    );
  }
  const ids = new Set<string>();
  for (const [n, p] of parsed.data.placements.entries()) {
    const settings = checkSettings(p.kind, p.settings);
    if (!settings.ok) return fail(`placement ${n + 1} (${p.id}): ${settings.error}`);
    if (ids.has(p.id))
      return fail(`placement ${n + 1}: the id ${p.id} is used twice; each placement has its own`);
    ids.add(p.id);
  }
  return ok(parsed.data);
}

/** The plan's JSON Schema (draft 2020-12), made from the types above. */
export const planSchema = (): unknown => ({
  title: 'Green Stall plan',
  ...z.toJSONSchema(plan, { io: 'input' }),
});
