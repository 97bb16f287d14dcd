import { oldestKey } from '../core/entries';
import { LRUCache } from 'lru-cache';

/** Keeps the `size` values used last. For things that are costly to make and never change under their key. */
export class Recent<K extends string, V> {
  // The library keeps no null; a picture that is still to be made is one.
  #kept: LRUCache<K, { readonly value: V }>;
  constructor(size: number) {
    this.#kept = new LRUCache({ max: size });
  }

  async get(key: K, make: () => Promise<V> | V): Promise<V> {
    const known = this.#kept.get(key);
    if (known) return known.value;
    const value = await make();
    this.put(key, value);
    return value;
  }

  put(key: K, value: V): void {
    this.#kept.set(key, { value });
  }
}

/**
 * What is remembered of a site for a moment: until something of it changes here ({@link PerSite.drop}), and never longer than
 * its lifetime, since other processes change things too. What is being made when a change comes is not kept.
 */
export class PerSite {
  /** Most that is remembered of one site: whoever asks for ever new things makes it forget, not grow. */
  static readonly LIMIT = 3_000;
  #sites = new Map<string, { readonly until: number; readonly kept: Map<string, unknown> }>();
  constructor(
    private readonly lifetimeMs: number,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** The site's own shelf; a fresh one when the last is too old. */
  of(siteId: string): Map<string, unknown> {
    const known = this.#sites.get(siteId);
    if (known && known.until > this.now()) return known.kept;
    const kept = new Map<string, unknown>();
    this.#sites.set(siteId, { until: this.now() + this.lifetimeMs, kept });
    return kept;
  }

  get<T>(siteId: string, key: string, make: () => Promise<T>): Promise<T> {
    const shelf = this.of(siteId);
    const known = shelf.get(key) as Promise<T> | undefined;
    if (known) return known;
    const made = make();
    shelf.set(key, made);
    if (shelf.size > PerSite.LIMIT) shelf.delete(oldestKey(shelf) ?? '');
    made.catch(() => shelf.delete(key));
    return made;
  }

  drop(siteId: string): void {
    this.#sites.delete(siteId);
  }
}
