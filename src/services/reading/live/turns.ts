import { setTimeout as wait } from 'node:timers/promises';

/** Requests to one site at the same time: its server must not feel it. */
const AT_ONCE = 4;
/** The longest that is waited because a server asks for it, in seconds. */
const LONGEST_WAIT = 20;

type Kind = 'page' | 'file';

/**
 * Work that is done a few pieces at a time, pages before files, with pauses where the site asks for them. Pieces may add others.
 */
export class Turns {
  readonly #queues: Record<Kind, (() => Promise<void>)[]> = { page: [], file: [] };
  #underWay = 0;
  #isOver = false;
  #notBefore = 0;

  /** @param pause seconds between two pieces; where one is asked for, nothing runs beside another */
  constructor(private readonly pause: number) {}

  get waiting(): number {
    return this.#queues.page.length + this.#queues.file.length + this.#underWay;
  }

  add(kind: Kind, work: () => Promise<void>): void {
    this.#queues[kind].push(work);
  }

  /** What waits is forgotten; what is under way ends. */
  clear(): void {
    this.#queues.page = [];
    this.#queues.file = [];
  }

  /** Everybody waits so long. @param seconds as a server asks */
  async pauseFor(seconds: number): Promise<void> {
    const asked = Number.isFinite(seconds) ? Math.max(0, Math.min(LONGEST_WAIT, seconds)) : 2;
    this.#notBefore = Math.max(this.#notBefore, Date.now() + asked * 1000);
    await wait(this.#notBefore - Date.now());
  }

  /** @param afterEach may stop all of it by throwing */
  async run(afterEach: () => void): Promise<void> {
    await Promise.all(Array.from({ length: this.pause > 0 ? 1 : AT_ONCE }, () => this.#work(afterEach)));
  }

  async #work(afterEach: () => void): Promise<void> {
    while (this.waiting > 0 && !this.#isOver) {
      const next = this.#queues.page.shift() ?? this.#queues.file.shift();
      if (!next) {
        // Others are at work and may add to it.
        await wait(10);
        continue;
      }
      this.#underWay++;
      try {
        const late = this.#notBefore - Date.now();
        if (late > 0) await wait(late);
        await next();
        if (this.pause > 0) await wait(this.pause * 1000);
        if (!this.#isOver) afterEach();
      } catch (error) {
        this.#isOver = true;
        this.clear();
        throw error;
      } finally {
        this.#underWay--;
      }
    }
  }
}
