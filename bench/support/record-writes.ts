import type { InStatement } from '@libsql/client';
import { Sqlite3Client, Sqlite3Transaction } from '@libsql/client/sqlite3';

/** The writes of one transaction, as they were sent. */
export type RecordedTransaction = readonly { readonly sql: string; readonly args: unknown[] }[];

/**
 * Keeps every write that is committed in this process from now on, in order, so that a baseline can do exactly the same. What shared
 * a commit with others (a savepoint each) is a transaction of its own here: it is what an act asks of the database.
 */
export function recordWrites(): readonly RecordedTransaction[] {
  const done: RecordedTransaction[] = [];
  const open = new WeakMap<object, RecordedTransaction[number][][]>();
  const tx = Sqlite3Transaction.prototype;
  const { execute, commit } = tx;
  tx.execute = async function (this: Sqlite3Transaction, statement: InStatement) {
    const result = await execute.call(this, statement as string);
    const acts = open.get(this) ?? [[]];
    open.set(this, acts);
    const { sql, args } = typeof statement === 'string' ? { sql: statement, args: [] } : statement;
    if (sql === 'SAVEPOINT job') acts.push([]);
    else if (sql === 'ROLLBACK TO job') acts.pop();
    else if (/^\s*(?:insert|update|delete)\b/i.test(sql)) acts.at(-1)?.push({ sql, args: args as unknown[] });
    return result;
  } as typeof execute;
  tx.commit = async function (this: Sqlite3Transaction) {
    await commit.call(this);
    done.push(...(open.get(this) ?? []).filter((act) => act.length > 0));
  };
  const client = Sqlite3Client.prototype;
  const { execute: executeAlone } = client;
  client.execute = async function (this: Sqlite3Client, statement: InStatement) {
    const result = await executeAlone.call(this, statement as string);
    if (typeof statement === 'object' && /^\s*(?:insert|update|delete)\b/i.test(statement.sql))
      done.push([{ sql: statement.sql, args: statement.args as unknown[] }]);
    return result;
  } as typeof executeAlone;
  return done;
}
