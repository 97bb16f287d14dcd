/** Where something goes, as far as it is known. */
export interface Place {
  /** ISO 3166-1 alpha-2; '' while nobody has said. */
  readonly country: string;
  /** ISO 3166-2 without the country: "CA" of US-CA; '' where there is none. */
  readonly state: string;
  readonly postcode: string;
}

export const nowhere: Place = { country: '', state: '', postcode: '' };

/** A part of the world that a rule is for. */
export interface Area {
  /** '*' is everywhere. */
  readonly country: string;
  readonly states: readonly string[];
  /** "WB4*", "12345", "10000-19999": letters and digits alone count, small and capital are the same. */
  readonly postcodes: readonly string[];
}

const bare = (postcode: string): string => postcode.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** How much a pattern says of a postcode: letters that agree, or nothing when it does not fit. */
function fits(pattern: string, postcode: string): number | undefined {
  const own = bare(postcode);
  if (!own) return undefined;
  const range = /^\s*(\d+)\s*-\s*(\d+)\s*$/.exec(pattern);
  if (range) {
    const [from = '', to = ''] = range.slice(1);
    return /^\d+$/.test(own) && own.length === from.length && own >= from && own <= to
      ? own.length
      : undefined;
  }
  const start = bare(pattern);
  if (pattern.includes('*')) return own.startsWith(start) ? start.length : undefined;
  return own === start ? start.length + 1 : undefined;
}

/**
 * How special an area is for a place; nothing when it does not hold it. A postcode says more than a state, a state more than
 * a country, a country more than everywhere; of postcodes the longer pattern says more.
 */
export function specialOf(area: Area, place: Place): number | undefined {
  if (area.country === '*') return 0;
  if (!place.country || area.country !== place.country) return undefined;
  if (area.postcodes.length) {
    const ranks = area.postcodes.flatMap((p) => fits(p, place.postcode) ?? []);
    return ranks.length ? 100 + Math.max(...ranks) : undefined;
  }
  if (area.states.length) return area.states.includes(place.state) ? 2 : undefined;
  return 1;
}
