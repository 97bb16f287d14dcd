import { createClient, type InStatement } from '@libsql/client';
import type { RecordedTransaction } from './support/record-writes';

/**
 * The baseline of `orders`: bare libSQL, in a process of its own, doing recorded writes again on a copy of the database they were
 * made in, each transaction as one batch. Answers every message of transactions with the milliseconds they took.
 */
const client = createClient({ url: `file:${process.argv[2]}`, concurrency: 1 });
await client.execute('PRAGMA journal_mode = WAL');
await client.execute('PRAGMA synchronous = FULL');

process.on('message', async (transactions: readonly RecordedTransaction[]) => {
  const started = performance.now();
  for (const statements of transactions) await client.batch(statements as InStatement[], 'write');
  process.send?.(performance.now() - started);
});
process.send?.('ready');
