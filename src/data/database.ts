import { type Client, createClient, type InStatement } from '@libsql/client';
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql';
import { migrate } from 'drizzle-orm/libsql/migrator';
import { Gate } from './gate';
import { executorOf } from './kept-queries';
import { keepStatements } from './kept-statements';
import * as schema from './schema';

export type Db = LibSQLDatabase<Record<string, never>>;
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];

/** Connections: one writes, the others read beside it (WAL). Chosen by hand for two cores. */
const CONNECTIONS = 4;
/** How long a connection waits for another process's lock, in milliseconds. */
const BUSY_MS = 5000;

export interface Store {
  /** For reading. */
  readonly db: Db;
  /** For writing: one short immediate transaction, queued at the gate. No foreign awaits inside. */
  readonly write: <T>(work: (tx: Tx) => Promise<T>) => Promise<T>;
  /**
   * The same for what many do at once (carts, payments): neighbours in the queue share a commit. Not for changes of goods or rules:
   * who comes next in the same transaction would see them before they are committed.
   */
  readonly writeTogether: <T>(work: (tx: Tx) => Promise<T>) => Promise<T>;
  /** For a library that writes by itself (sign-in): each of its writes passes the gate on its own. */
  readonly gated: LibSQLDatabase<typeof schema>;
  readonly close: () => void;
}

/**
 * Opens the database, applies pending migrations and makes every connection durable (synchronous = FULL) before use.
 * @param url `file:…` or a `libsql://` address.
 * @throws when a migration fails: the application must not run on half a schema.
 */
export async function openStore(url: string, migrationsFolder: string): Promise<Store> {
  const client = createClient({ url, timeout: BUSY_MS, concurrency: CONNECTIONS });
  if (url.startsWith('file:')) await prepare(client);
  // Without the schema: nobody asks by relations, and each transaction would build a maker of such questions for every table.
  const db = drizzle(client, { casing: 'snake_case' });
  await migrate(db, { migrationsFolder });
  // After the migrations: what is kept knows the schema as it is now.
  keepStatements();
  const transaction = <T>(work: (tx: Tx) => Promise<T>) => db.transaction(work, { behavior: 'immediate' });
  const gate = new Gate<Tx>({ transaction, command: (tx, sql) => executorOf(tx).execute({ sql, args: [] }) });
  return {
    db,
    write: (work) => gate.run(() => transaction(work)),
    writeTogether: (work) => gate.join(work),
    gated: drizzle(throughGate(client, gate), { schema, casing: 'snake_case' }),
    close: () => client.close(),
  };
}

/**
 * A PRAGMA reaches one pooled connection, so each is visited: with a transaction held open on all before it, the next
 * call must open another. WAL stays with the file; synchronous belongs to the connection.
 */
async function prepare(client: Client): Promise<void> {
  await client.execute('PRAGMA journal_mode = WAL');
  const held = [];
  try {
    for (let i = 0; i < CONNECTIONS; i++) {
      await client.execute('PRAGMA synchronous = FULL');
      held.push(await client.transaction('deferred'));
    }
  } finally {
    for (const tx of held) await tx.rollback();
  }
}

function throughGate(client: Client, gate: Gate<Tx>): Client {
  const reads = (stmt: InStatement) => /^\s*select\b/i.test(typeof stmt === 'string' ? stmt : stmt.sql);
  return new Proxy(client, {
    get(target, name) {
      if (name === 'execute')
        return (stmt: InStatement) =>
          reads(stmt) ? target.execute(stmt) : gate.run(() => target.execute(stmt));
      if (name === 'batch')
        return (...args: Parameters<Client['batch']>) => gate.run(() => target.batch(...args));
      const value = Reflect.get(target, name, target);
      return typeof value === 'function' ? value.bind(target) : value;
    },
  });
}
