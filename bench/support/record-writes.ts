import type { InStatement } from '@libsql/client';
import { Sqlite3Client, Sqlite3Transaction } from '@libsql/client/sqlite3';

/** The writes of one transaction, as they were sent; a statement that was sent alone is a transaction of its own. */
export interface RecordedTransaction {
  readonly alone: boolean;
  readonly statements: { readonly sql: string; readonly args: unknown[] }[];
}

/** Keeps every write that is committed in this process from now on, in order, so that a baseline can do exactly the same. */
export function recordWrites(): readonly RecordedTransaction[] {
  const done: RecordedTransaction[] = [];
  const open = new WeakMap<object, RecordedTransaction['statements']>();
  const written = (s: InStatement) => (typeof s === 'object' && /^\s*(?:insert|update|delete)\b/i.test(s.sql) ? [{ sql: s.sql, args: s.args as unknown[] }] : []);
  const tx = Sqlite3Transaction.prototype;
  const { execute, commit } = tx;
  tx.execute = function (this: Sqlite3Transaction, statement: InStatement) {
    open.set(this, [...(open.get(this) ?? []), ...written(statement)]);
    return execute.call(this, statement as string);
  } as typeof execute;
  tx.commit = async function (this: Sqlite3Transaction) {
    await commit.call(this);
    const statements = open.get(this) ?? [];
    if (statements.length) done.push({ alone: false, statements });
  };
  const client = Sqlite3Client.prototype;
  const { execute: executeAlone } = client;
  client.execute = async function (this: Sqlite3Client, statement: InStatement) {
    const result = await executeAlone.call(this, statement as string);
    const statements = written(statement);
    if (statements.length) done.push({ alone: true, statements });
    return result;
  } as typeof executeAlone;
  return done;
}
