import { pathOf } from '../../core/site/paths';
import type { PagePath } from '../../core/site/paths';
import type { SiteReading } from '../../core/site/read-site';
import type { LiveReading } from '../reading/live/read-live';

/**
 * A site's reading with what its server said: pages are called by their own addresses and not by those of the files that stand for them,
 * and a link is dead where the server said so. That a page was not read proves nothing.
 */
export function asLive(reading: SiteReading, live: Omit<LiveReading, 'notes'>): SiteReading {
  return {
    ...reading,
    pages: reading.pages.map((p) => ({
      ...p,
      address: live.addresses.get(p.path) ?? p.address,
      dead: p.dead.filter((href) => isGone(p.path, href, live.gone)),
    })),
  };
}

function isGone(from: PagePath, href: string, gone: ReadonlySet<string>): boolean {
  const to = pathOf({ path: from }, href);
  return (
    to !== undefined &&
    [to, `${to}.html`, `${to.replace(/\/$/, '')}/index.html`].some((path) => gone.has(path))
  );
}
