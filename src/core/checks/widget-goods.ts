import type { WrittenWidget } from './written/facts';

/** Products that a widget names one by one. */
export function slugsOf(w: Pick<WrittenWidget, 'settings' | 'kind'>): string[] {
  const { goods, of, source } = w.settings ?? {};
  if (Array.isArray(goods)) return source === 'chosen' ? goods.map(String) : [];
  return [goods, source === 'related' ? of : undefined].filter(
    (g): g is string => typeof g === 'string' && g !== '',
  );
}
