/**
 * The one gate for writes. SQLite has one writer; libSQL's client blocks the event loop while it waits for a lock
 * (so a second write during an open transaction would stall the process). Every write of the process queues here.
 *
 * Writes that may share a commit do (Helland et al., "Group Commit Timers and High Volume Transaction Systems", 1988; named from memory):
 * syncing to disk takes a tenth of the time of an order and more, and one sync serves all that stand in the queue. Each has
 * a savepoint of its own, so that one that fails takes nothing with it, and none is told that it is done before the disk has it.
 */
interface Job<T> {
  /** May share a commit: does its work in a transaction it is handed. */
  readonly joins?: (tx: T) => Promise<unknown>;
  /** Stands alone, and sees to its own transaction. */
  readonly alone?: () => Promise<unknown>;
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: unknown) => void;
}

/** Writes that share a commit at most: the first waits for the last. Chosen by hand. */
const TOGETHER = 8;

export interface Transactions<T> {
  /** Opens a write transaction, hands it over, and commits; rolls back when `work` throws. */
  readonly transaction: <R>(work: (tx: T) => Promise<R>) => Promise<R>;
  /** Runs a command within a transaction. */
  readonly command: (tx: T, sql: string) => Promise<unknown>;
}

export class Gate<T = never> {
  readonly #queue: Job<T>[] = [];
  #busy = false;
  #waiting = 0;

  constructor(private readonly on?: Transactions<T>) {}

  /** How many writes are queued or running. */
  get waiting(): number {
    return this.#waiting;
  }

  /** Runs `work` when all before it have ended, however they ended. */
  run<R>(work: () => Promise<R>): Promise<R> {
    return this.#enter((resolve, reject) => ({ alone: work, resolve, reject }));
  }

  /** Runs `work` in a transaction that it may share with its neighbours in the queue. Told as done when it is committed. */
  join<R>(work: (tx: T) => Promise<R>): Promise<R> {
    if (!this.on) return Promise.reject(new Error('a gate that opens no transactions has none to share'));
    return this.#enter((resolve, reject) => ({ joins: work, resolve, reject }));
  }

  #enter<R>(
    job: (resolve: (value: unknown) => void, reject: (error: unknown) => void) => Job<T>,
  ): Promise<R> {
    this.#waiting++;
    const ended = new Promise<unknown>((resolve, reject) => {
      this.#queue.push(job(resolve, reject));
    }).finally(() => {
      this.#waiting--;
    });
    if (!this.#busy) void this.#open();
    return ended as Promise<R>;
  }

  async #open(): Promise<void> {
    this.#busy = true;
    while (this.#queue.length) {
      // Whatever else happens at this moment first: who writes now, too, can share the commit.
      if (this.#queue[0]?.joins) await new Promise((soon) => setImmediate(soon));
      const other = this.#queue.findIndex((j) => !j.joins);
      const joining = this.#queue.splice(
        0,
        Math.min(TOGETHER, other === -1 ? this.#queue.length : Math.max(other, 1)),
      );
      const [first] = joining;
      if (first?.alone) await Promise.resolve().then(first.alone).then(first.resolve, first.reject);
      else if (this.on) await this.#together(this.on, joining);
    }
    this.#busy = false;
  }

  async #together(on: Transactions<T>, jobs: readonly Job<T>[]): Promise<void> {
    const settled: (() => void)[] = [];
    const [only] = jobs;
    const all = async (tx: T): Promise<void> => {
      for (const job of jobs) {
        await on.command(tx, 'SAVEPOINT job');
        try {
          const value = await job.joins?.(tx);
          settled.push(() => job.resolve(value));
        } catch (error) {
          await on.command(tx, 'ROLLBACK TO job');
          settled.push(() => job.reject(error));
        }
        await on.command(tx, 'RELEASE job');
      }
    };
    try {
      if (jobs.length === 1 && only)
        only.resolve(await on.transaction((tx) => only.joins?.(tx) ?? Promise.resolve()));
      else {
        await on.transaction(all);
        for (const tell of settled) tell();
      }
    } catch (error) {
      // Nothing of it is on the disk: nobody may believe it is.
      for (const job of jobs) job.reject(error);
    }
  }
}
