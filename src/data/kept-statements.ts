import Database from 'libsql';

/**
 * Statements are prepared once for each connection and used again: preparing, asking for columns, and finding out whether a
 * statement answers at all took a third of the time of a write transaction (docs/benchmarks.md, orders). The libSQL client
 * asks its native driver to prepare every time; here that driver is taught to remember.
 *
 * Rules: a statement that failed is forgotten, so that it is never used half-way through; each connection keeps its own; a
 * connection keeps at most {@link MOST}, the oldest go first. SQLite itself prepares a kept statement anew when the schema
 * changed (sqlite3_prepare_v2); columns are asked for anew by whoever opens the database anew.
 */
const MOST = 400;

interface Statement {
  safeIntegers(on: boolean): Statement;
  raw(on: boolean): Statement;
  columns(): readonly { readonly name: string; readonly type: string | null }[];
  all(args: unknown): unknown[];
  run(args: unknown): { changes: number; lastInsertRowid: number | bigint };
}

/** Thrown by `raw` where a statement gives no rows, as the driver does; made once, since it is asked all the time. */
const noRows = new TypeError('The raw() method is only for statements that return data');

class KeptStatement {
  readonly #columns: ReturnType<Statement['columns']> | undefined;

  constructor(
    readonly statement: Statement,
    readonly forget: () => void,
  ) {
    statement.safeIntegers(true);
    try {
      statement.raw(true);
      this.#columns = statement.columns();
    } catch {
      this.#columns = undefined;
    }
  }

  safeIntegers(): this {
    return this;
  }

  raw(): this {
    if (!this.#columns) throw noRows;
    return this;
  }

  columns(): ReturnType<Statement['columns']> {
    return this.#columns ?? [];
  }

  all(args: unknown): unknown[] {
    return this.#through(() => this.statement.all(args));
  }

  run(args: unknown): ReturnType<Statement['run']> {
    return this.#through(() => this.statement.run(args));
  }

  #through<T>(work: () => T): T {
    try {
      return work();
    } catch (error) {
      this.forget();
      throw error;
    }
  }
}

interface Driver {
  prepare(sql: string): unknown;
}

const kept = new WeakMap<object, Map<string, KeptStatement>>();
/** Only what is asked over and over is worth keeping: changes of the schema and settings are not. */
const worth = /^\s*(?:select|insert|update|delete|with|begin|commit|savepoint|release)\b/i;

/** Teaches the driver to remember; once, however often it is called. */
export function keepStatements(): void {
  const driver = Database.prototype as unknown as Driver & { keeps?: true };
  if (driver.keeps) return;
  driver.keeps = true;
  const { prepare } = driver;
  driver.prepare = function (this: object, sql: string): unknown {
    if (!worth.test(sql)) return prepare.call(this as Driver, sql);
    const own = kept.get(this) ?? new Map<string, KeptStatement>();
    kept.set(this, own);
    const known = own.get(sql);
    if (known) return known;
    const made = new KeptStatement(
      prepare.call(this as Driver, sql) as Statement,
      () => void own.delete(sql),
    );
    own.set(sql, made);
    const [oldest] = own.size > MOST ? own.keys() : [];
    if (oldest !== undefined) own.delete(oldest);
    return made;
  };
}
