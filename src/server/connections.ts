import type { Server } from 'node:http';
import type { BlockList, Socket } from 'node:net';
import { addressOf, isOneOf, networkOf } from './client-address';

/** What one server takes at a time, and how long it waits. Times in milliseconds. */
export interface Patience {
  /** Open connections from one network; no proxy of ours counts as one. Nothing for no limit. */
  readonly fromOne: number | undefined;
  /** Until all headers are there. */
  readonly headersMs: number;
  /** Until the whole request is there, however large it is. */
  readonly requestMs: number;
}

/**
 * Open connections in all; who comes beyond them is turned away. Node.js lets itself have as many files open
 * as the system's hard limit.
 */
const MOST_OPEN = 4_000;
/** How often connections are looked at that are slow. */
const LOOK_MS = 2_000;

/**
 * Holds slow and greedy clients back: headers and bodies have to come in time, and one network has so many
 * connections and no more, so that whoever opens a thousand and says nothing takes nobody else's.
 */
export function holdBack(
  server: Server,
  trusted: BlockList,
  { fromOne, headersMs, requestMs }: Patience,
): Server {
  server.maxConnections = MOST_OPEN;
  server.headersTimeout = headersMs;
  server.requestTimeout = requestMs;
  if (fromOne !== undefined) server.on('connection', countFrom(trusted, fromOne));
  return server;
}

/** For `createServer`: how often slow connections are looked for is set when a server is made. */
export const watchful = { connectionsCheckingInterval: LOOK_MS } as const;

function countFrom(trusted: BlockList, most: number): (socket: Socket) => void {
  const open = new Map<string, number>();
  return (socket) => {
    const address = addressOf(socket);
    if (isOneOf(trusted, address)) return;
    const network = networkOf(address);
    const now = (open.get(network) ?? 0) + 1;
    if (now > most) return void socket.destroy();
    open.set(network, now);
    socket.once('close', () => {
      const left = (open.get(network) ?? 1) - 1;
      if (left > 0) open.set(network, left);
      else open.delete(network);
    });
  };
}
