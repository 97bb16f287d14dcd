import type { Manifest } from '../../../data/schema/site';
import type { Ctx } from '../../context';
import type { CameWith, ConnectionKind, ForHost, Kept, ReadTo } from './connection';
import type { Delivery } from '../deliveries';
import { folder } from './folder';
import { live } from './live';
import { zip } from './zip';

/** One line to each way in which sites come. */
const connections = { zip, folder, live };

type Table = typeof connections;
export type ConnectionName = keyof Table;
type OriginOf<K> = K extends ConnectionKind<infer Origin, infer _> ? Origin : never;
type KnownOf<K> = K extends ConnectionKind<infer _, infer Known> ? Known : never;
/** What is handed in. */
export type Origin = { [N in ConnectionName]: { readonly how: N } & OriginOf<Table[N]> }[ConnectionName];
/** What is remembered of it with the site. */
export type Connection = { [N in ConnectionName]: { readonly how: N } & KnownOf<Table[N]> }[ConnectionName];

/** A connection with what was handed in. */
export interface Opened {
  readonly connection: Connection;
  readonly read: (ctx: Ctx, to: ReadTo) => Promise<CameWith>;
  readonly arranged: (kept: Kept) => Kept;
  /** Why it cannot be connected beside one that is. */
  readonly refusal: (known: Connection) => string | undefined;
  /** Where publications go; nothing where the settings say it. */
  readonly delivery: Delivery | undefined;
  readonly forHost: (ctx: Ctx, manifest: Manifest) => Promise<ForHost>;
}

/**
 * The kind that a name stands for. Which origin and which memory belong to a name is what the table says; the compiler cannot follow
 * that through a union, so it is told here, once.
 */
const kindOf = (name: ConnectionName): ConnectionKind<object, object> =>
  connections[name] as ConnectionKind<object, object>;

export function open(origin: Origin): Opened {
  const kind = kindOf(origin.how);
  const known = kind.remembered(origin);
  return {
    connection: { how: origin.how, ...known } as Connection,
    read: (ctx, to) => kind.read(ctx, origin, to),
    arranged: kind.arranged,
    refusal: (other) => (other.how === origin.how ? kind.refusal(origin, other) : undefined),
    delivery: kind.delivery(known),
    forHost: (ctx, manifest) => kind.forHost(ctx, origin, manifest),
  };
}

/** The same site again, from what is remembered; or what the owner has to hand in. */
export function again(connection: Connection): Origin | { readonly handIn: string } {
  const kind = kindOf(connection.how);
  const origin = kind.again(connection);
  return origin ? ({ how: connection.how, ...origin } as Origin) : { handIn: kind.handIn };
}
