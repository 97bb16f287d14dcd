import { type WidgetShape, widgetShapes } from '../look/shape';
import type { Placement } from './placement';

/** What of the shop's shape a widget has of its own: names and values, in the order in which they are asked for. */
export const departuresOf = (settings: Placement['settings']): readonly (readonly [WidgetShape, string])[] =>
  widgetShapes.flatMap((name) => {
    const own = settings[name];
    return typeof own === 'string' && own !== '' ? [[name, own] as const] : [];
  });

/** The first page that a placement stands on by name; '' where it stands on all of a kind. */
export const firstPageOf = ({ reach }: Pick<Placement, 'reach'>): string => {
  if ('page' in reach) return reach.page;
  return 'pages' in reach ? (reach.pages[0] ?? '') : '';
};
