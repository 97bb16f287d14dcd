import type { ResultSet } from '@libsql/client';
import { Column, getTableColumns, getTableName, is, Param, Placeholder, SQL, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/libsql';
import type { SQLiteColumn, SQLiteTable } from 'drizzle-orm/sqlite-core';
import type { Db, Store, Tx } from './database';

/**
 * Queries that are built once. Building one from its parts takes the query builder three times as long as the database takes to
 * answer it (docs/benchmarks.md, orders), so what a till asks over and over is written as ever, with named arguments, built when it is
 * first asked, and then only filled.
 *
 *     const linesOf = keep({ cart: cartLines.cart }, (q, { cart }) => q.select().from(cartLines).where(eq(cartLines.cart, cart)));
 *     await linesOf(tx, { cart: token });
 *
 * An argument is of the kind its column is: it is written to the database as that column's values are. What failed throws the
 * client's own error; arguments are not in it.
 */
type Maker = Db;
const maker: Maker = drizzle.mock({ casing: 'snake_case' });

/** Several values of a column's kind, in one argument: `sql\`${variants.id} in ${ids}\``. */
export interface Many<C extends SQLiteColumn> {
  readonly many: C;
}
export const many = <C extends SQLiteColumn>(column: C): Many<C> => ({ many: column });

type Asked = Readonly<Record<string, SQLiteColumn | Many<SQLiteColumn>>>;
type DataOf<C extends SQLiteColumn> = C['_']['data'] | (C['_']['notNull'] extends true ? never : null);
type Values<A extends Asked> = {
  readonly [K in keyof A]: A[K] extends SQLiteColumn
    ? DataOf<A[K]>
    : A[K] extends Many<infer C>
      ? readonly C['_']['data'][]
      : never;
};
type Filled<A extends Asked> = { readonly [K in keyof A]: SQL };

/** What this module knows of the builder's queries; held by a test, since the builder keeps it to itself. */
interface Prepared {
  getQuery(): { readonly sql: string; readonly params: readonly unknown[] };
  readonly fields?: readonly { readonly path: readonly string[]; readonly field: unknown }[];
  readonly joinsNotNullableMap?: Readonly<Record<string, boolean>>;
}
interface Executor {
  execute(statement: { readonly sql: string; readonly args: unknown[] }): Promise<ResultSet>;
}

const preparedOf = (query: unknown): Prepared => (query as { _prepare(): Prepared })._prepare();

/** Where a query runs: the transaction it is asked in, else any connection. */
type Place = Db | Tx | Store['gated'];
export const executorOf = (db: Place): Executor => {
  const { session } = db as unknown as { session: { tx?: Executor; client: Executor } };
  return session.tx ?? session.client;
};

type Encode = (value: unknown) => unknown;
const encoderOf = (asked: SQLiteColumn | Many<SQLiteColumn>): Encode =>
  'many' in asked
    ? (values) => JSON.stringify((values as readonly unknown[]).map((v) => asked.many.mapToDriverValue(v)))
    : (v) => (v === null || v === undefined ? null : asked.mapToDriverValue(v));

/** What is worked out in SQL, with or without a name. */
const expressionOf = (field: unknown): { readonly decoder: Column } =>
  is(field, SQL) ? (field as unknown as { decoder: Column }) : (field as { sql: { decoder: Column } }).sql;

/** Reads a row into an object as the builder would; a column that is null stays null. */
type Read = (row: ArrayLike<unknown>) => unknown;
function readerOf({ fields, joinsNotNullableMap }: Prepared): Read | undefined {
  if (!fields) return undefined;
  const mayBeMissing = (field: unknown): boolean =>
    is(field, Column) && joinsNotNullableMap?.[getTableName(field.table)] === false;
  if (fields.some((f) => f.path.length > 1 && mayBeMissing(f.field)))
    throw new Error('a kept query names the columns of what may be missing one by one');
  const parts = fields.map(({ path, field }) => {
    const decoder = is(field, Column) ? field : expressionOf(field).decoder;
    return { path, read: (v: unknown) => (v === null ? null : decoder.mapFromDriverValue(v)) };
  });
  return (row) => {
    const out: Record<string, unknown> = {};
    parts.forEach(({ path, read }, i) => {
      const [first = '', second] = path;
      if (second === undefined) out[first] = read(row[i]);
      else ((out[first] ??= {}) as Record<string, unknown>)[second] = read(row[i]);
    });
    return out;
  };
}

interface Ready {
  readonly sql: string;
  readonly fill: (values: Readonly<Record<string, unknown>>) => unknown[];
  readonly read: Read | undefined;
}

function readied(prepared: Prepared): Ready {
  const query = prepared.getQuery();
  const fills = query.params.map((p): ((values: Readonly<Record<string, unknown>>) => unknown) => {
    if (!is(p, Param) || !is(p.value, Placeholder)) return () => p;
    const {
      encoder,
      value: { name },
    } = p;
    return (values) => encoder.mapToDriverValue(values[name]);
  });
  return { sql: query.sql, fill: (values) => fills.map((f) => f(values)), read: readerOf(prepared) };
}

async function ask(db: Place, ready: Ready, values: Readonly<Record<string, unknown>>): Promise<unknown> {
  const answer = await executorOf(db).execute({ sql: ready.sql, args: ready.fill(values) });
  return ready.read ? answer.rows.map(ready.read) : answer;
}

/** A query with named arguments. @param asked what each argument is: the column whose values it is compared with or written to. */
export function keep<A extends Asked, R>(
  asked: A,
  build: (q: Maker, args: Filled<A>) => PromiseLike<R>,
): (db: Place, values: Values<A>) => Promise<R> {
  let ready: Ready | undefined;
  return async (db, values) => {
    ready ??= readied(preparedOf(build(maker, argsOf(asked))));
    return (await ask(db, ready, values)) as R;
  };
}

function argsOf<A extends Asked>(asked: A): Filled<A> {
  return Object.fromEntries(
    Object.entries(asked).map(([name, a]) => {
      const param = new Param(sql.placeholder(name), { mapToDriverValue: encoderOf(a) });
      return [name, 'many' in a ? sql`(select value from json_each(${param}))` : sql`${param}`];
    }),
  ) as unknown as Filled<A>;
}

/** Rows in one statement; more go in several. Chosen by hand: a cart's lines fit. */
const ROWS = 20;

/**
 * Rows put into a table: what a row leaves out gets the column's usual value. @param twice what becomes of a row whose key is there
 * already: an error, or nothing.
 */
export function keepInsert<T extends SQLiteTable>(
  table: T,
  twice: 'fails' | 'is left' = 'fails',
): (db: Place, ...rows: readonly T['$inferInsert'][]) => Promise<void> {
  const columns = Object.entries(getTableColumns(table)) as [string, SQLiteColumn][];
  const bySize = new Map<number, Ready>();
  const readyFor = (size: number): Ready => {
    const asked = Object.fromEntries(
      Array.from({ length: size }, (_, n) => columns.map(([name, c]) => [`${n}.${name}`, c])).flat(),
    ) as Asked;
    const args = argsOf(asked);
    const values = Array.from({ length: size }, (_, n) =>
      Object.fromEntries(columns.map(([name]) => [name, args[`${n}.${name}`]])),
    );
    const query = maker.insert(table).values(values as never);
    return readied(preparedOf(twice === 'is left' ? query.onConflictDoNothing() : query));
  };
  return async (db, ...rows) => {
    for (let n = 0; n < rows.length; n += ROWS) {
      const some = rows.slice(n, n + ROWS);
      const ready = bySize.get(some.length) ?? readyFor(some.length);
      bySize.set(some.length, ready);
      const values: Record<string, unknown> = {};
      some.forEach((row, i) => {
        for (const [name, column] of columns)
          values[`${i}.${name}`] = (row as Record<string, unknown>)[name] ?? usual(column);
      });
      await ask(db, ready, values);
    }
  };
}

const usual = (column: SQLiteColumn): unknown => column.defaultFn?.() ?? column.default ?? null;
