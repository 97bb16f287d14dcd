import { RateLimiterMemory } from 'rate-limiter-flexible';
import { stepWordsIn } from '../../core/languages/languages';
import type { Ctx } from '../../services/context';
import type { Site } from '../../services/sites/site';
import { HttpError } from '../http';

/**
 * Numbers of orders follow one another, so whoever knows a mail address could count them through. Looks
 * that find nothing are few for one
 * address of a buyer, and for one visitor; each is counted before it is answered, so that many at once are
 * no way around it.
 */
const HOUR_S = 3600;
const FOR_ONE_EMAIL = 8;
const FOR_ONE_VISITOR = 30;

interface Lock {
  readonly email: RateLimiterMemory;
  readonly visitor: RateLimiterMemory;
}
const locks = new WeakMap<Ctx, Lock>();

/** One lock, whichever page is asked. */
function lockOf(ctx: Ctx): Lock {
  const lock = locks.get(ctx) ?? {
    email: new RateLimiterMemory({ points: FOR_ONE_EMAIL, duration: HOUR_S }),
    visitor: new RateLimiterMemory({ points: FOR_ONE_VISITOR, duration: HOUR_S }),
  };
  locks.set(ctx, lock);
  return lock;
}

/**
 * @param visitor where the request comes from. @throws HttpError 429 when too many looks found nothing; what
 * is found is not counted.
 */
export async function guardedLook<T extends { readonly found: boolean }>(
  ctx: Ctx,
  visitor: string,
  site: Site,
  email: string,
  look: () => Promise<T>,
): Promise<T> {
  const lock = lockOf(ctx);
  const keys = [`${site.row.id} ${email.trim().toLowerCase()}`, visitor] as const;
  const tries = await Promise.allSettled([lock.email.consume(keys[0]), lock.visitor.consume(keys[1])]);
  if (tries.some((t) => t.status === 'rejected'))
    throw new HttpError(429, stepWordsIn(site.row.locale).tooManyGuesses);
  const answer = await look();
  if (answer.found) await Promise.all([lock.email.reward(keys[0]), lock.visitor.reward(keys[1])]);
  return answer;
}
