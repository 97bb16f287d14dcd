/**
 * The one gate for writes. SQLite has one writer; libSQL's client blocks the event loop while it waits for a lock
 * (so a second write during an open transaction would stall the process). Every write of the process queues here.
 * Sharing one commit among queued writes was tried and measured: no gain, the time goes to building statements.
 */
export class Gate {
  #last: Promise<unknown> = Promise.resolve();
  #waiting = 0;

  /** How many writes are queued or running. */
  get waiting(): number {
    return this.#waiting;
  }

  /** Runs `work` when all before it have ended, however they ended. */
  run<T>(work: () => Promise<T>): Promise<T> {
    this.#waiting++;
    const turn = this.#last.then(work, work);
    this.#last = turn.catch(() => {}).finally(() => {
      this.#waiting--;
    });
    return turn;
  }
}
