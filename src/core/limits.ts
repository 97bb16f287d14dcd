const KB = 1024;
const MB = 1024 * KB;

/**
 * What may come from outside, and how much of it. Each limit has a name, a figure and a unit; whoever goes beyond one is told which
 * (services/errors.ts, `BeyondLimit`). All are chosen by hand, larger than anything honest was seen to need.
 */
export const limits = {
  /** A site as it comes in, in a ZIP or a folder. */
  siteFiles: { most: 50_000, unit: 'files' },
  siteFile: { most: 64 * MB, unit: 'bytes' },
  siteUnpacked: { most: 1024 * MB, unit: 'bytes' },
  siteZip: { most: 600 * MB, unit: 'bytes' },
  /** A site that is read from its live address: pages, all files, one of them that is no page, all of it, and the time it takes. */
  livePages: { most: 3_000, unit: 'pages' },
  liveFiles: { most: 10_000, unit: 'files' },
  liveFile: { most: 24 * MB, unit: 'bytes' },
  liveSite: { most: 600 * MB, unit: 'bytes' },
  liveTime: { most: 900, unit: 'seconds' },
  /** A list of a site's addresses (50 MB by its protocol), and what is asked of robots (500 kB by RFC 9309). */
  siteMap: { most: 50 * MB, unit: 'bytes' },
  robots: { most: 512 * KB, unit: 'bytes' },
  /** A page of another site that is looked at. */
  visitedPage: { most: 16 * MB, unit: 'bytes' },
  /** A file of a download, or a film. */
  goodsFile: { most: 2_000_000_000, unit: 'bytes' },
  /** An uploaded picture, and the pixels it may open to: a small file can claim a very large one. */
  picture: { most: 20 * MB, unit: 'bytes' },
  picturePixels: { most: 80_000_000, unit: 'pixels' },
  /** A table of goods: ten thousand goods with long descriptions fit; and what a ZIP of it may unpack to. */
  table: { most: 60 * MB, unit: 'bytes' },
  tableUnpacked: { most: 600 * MB, unit: 'bytes' },
  tableRows: { most: 100_000, unit: 'rows' },
  /** Small changes that checks made of the owner's pages; and the owner's own CSS. */
  repairs: { most: 2_000, unit: 'changes' },
  ownCss: { most: 20_000, unit: 'characters' },
  /** Days of takings looked at in one go. */
  takingsDays: { most: 1_100, unit: 'days' },
  /** A request from a shopper, and its address: names and questions of ours are far shorter. */
  shopperBody: { most: 64 * KB, unit: 'bytes' },
  address: { most: 4_000, unit: 'characters' },
  /** Requests to the office, by what they bring; before sign-in next to nothing is taken. */
  signInBody: { most: 16 * KB, unit: 'bytes' },
  formBody: { most: 4 * MB, unit: 'bytes' },
} as const satisfies Readonly<Record<string, Limit>>;

export interface Limit {
  readonly most: number;
  readonly unit:
    | 'bytes'
    | 'files'
    | 'pages'
    | 'seconds'
    | 'pixels'
    | 'rows'
    | 'days'
    | 'characters'
    | 'changes';
}
export type LimitName = keyof typeof limits;

/** A limit as people read it: "64 MB", "100,000 rows". */
export function limitText(name: LimitName): string {
  const { most, unit }: Limit = limits[name];
  if (unit !== 'bytes') return `${most.toLocaleString('en')} ${unit}`;
  if (most >= 1e9) return `${Math.round(most / 1e9)} GB`;
  return most < MB ? `${Math.round(most / KB)} KB` : `${Math.round(most / MB)} MB`;
}
