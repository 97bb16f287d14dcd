import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Step } from '../../core/checks/ways/ways';
import type { Store } from '../../data/database';
import type { Ctx, ThreadStart } from '../context';
import type { Answer, Ask } from './check-worker';
import { type Checked, Checking, type Progress, Stopped } from './compute';
import { threadLimits } from './thread-limits';

/** A run, under way or done. */
export interface Run {
  readonly done: Promise<Checked>;
  /** What was found the last time. */
  readonly before: Checked | undefined;
  readonly progress: () => Progress;
}

type Goal = 'product' | 'cart' | 'paid';

/** Whoever works checks out: this thread, or one of its own. */
interface Worked {
  readonly run: (siteId: string, onProgress: (p: Progress) => void, stop: AbortSignal) => Promise<Checked>;
  readonly way: (siteId: string, path: string, goal: Goal) => Promise<readonly Step[]>;
}

const NOTHING: Progress = { done: 0, all: 0 };

/**
 * One run of a site at a time. Who asks meanwhile may have changed something since it began, so one more follows it, for all who
 * asked; where nothing changed that one ends at once.
 */
export class Checker {
  readonly #running = new Map<string, Running>();
  readonly #following = new Map<string, Running>();
  readonly #looks = new Map<string, { progress: Progress; isStopped: boolean }>();
  readonly #last = new Map<string, Checked>();
  /** Sites whose run was stopped: nothing begins by itself until somebody asks again. */
  readonly #stopped = new Set<string>();
  constructor(private readonly worked: Worked) {}

  run(siteId: string): Run {
    const running = this.#running.get(siteId);
    return running ? this.#follow(siteId, running) : this.#begin(siteId);
  }

  #begin(siteId: string): Running {
    const abort = new AbortController();
    let progress = NOTHING;
    const done = this.worked
      .run(siteId, (p) => (progress = p), abort.signal)
      .then((checked) => {
        this.#last.set(siteId, checked);
        return checked;
      })
      .finally(() => this.#running.delete(siteId));
    return this.#kept(this.#running, siteId, { done, progress: () => progress, abort });
  }

  #follow(siteId: string, running: Running): Running {
    const known = this.#following.get(siteId);
    if (known) return known;
    let next: Running | undefined;
    const go = () => {
      this.#following.delete(siteId);
      if (running.abort.signal.aborted) throw new Stopped();
      next = this.#begin(siteId);
      return next.done;
    };
    return this.#kept(this.#following, siteId, {
      done: running.done.then(go, go),
      progress: () => (next ?? running).progress(),
      abort: running.abort,
    });
  }

  #kept(where: Map<string, Running>, siteId: string, run: Omit<Running, 'before'>): Running {
    const kept = { ...run, before: this.#last.get(siteId) };
    where.set(siteId, kept);
    // Who waits for it is told; nobody has to.
    run.done.catch(() => {});
    return kept;
  }

  /** Other work of the checks on a site, such as a look at the live one: told and stopped as a run is. */
  async look<T>(siteId: string, work: (onProgress: (p: Progress) => void) => Promise<T>): Promise<T> {
    const look = { progress: NOTHING, isStopped: false };
    this.#looks.set(siteId, look);
    try {
      return await work((p) => {
        if (look.isStopped) throw new Stopped();
        look.progress = p;
      });
    } finally {
      if (this.#looks.get(siteId) === look) this.#looks.delete(siteId);
    }
  }

  /** How far such work is; nothing where none is under way. */
  looking(siteId: string): Progress | undefined {
    return this.#looks.get(siteId)?.progress;
  }

  stop(siteId: string): void {
    this.#stopped.add(siteId);
    this.#running.get(siteId)?.abort.abort();
    const look = this.#looks.get(siteId);
    if (look) look.isStopped = true;
  }

  isStopped(siteId: string): boolean {
    return this.#stopped.has(siteId);
  }

  goOn(siteId: string): void {
    this.#stopped.delete(siteId);
  }

  last(siteId: string): Checked | undefined {
    return this.#last.get(siteId);
  }

  /** After the run that it is read from, or the same pages would be written twice side by side. */
  async way(siteId: string, path: string, goal: Goal): Promise<readonly Step[]> {
    await this.run(siteId).done;
    return this.worked.way(siteId, path, goal);
  }
}

type Running = Run & { readonly abort: AbortController };

const checkers = new WeakMap<Store, Checker>();

export function checker(ctx: Ctx): Checker {
  const known = checkers.get(ctx.store);
  if (known) return known;
  const made = new Checker(ctx.threads && existsSync(file) ? inThread(ctx.threads) : here(ctx));
  checkers.set(ctx.store, made);
  return made;
}

/** In this thread: tests, and programs that run one command. */
function here(ctx: Ctx): Worked {
  const checking = new Checking(ctx);
  return {
    run: (siteId, onProgress, stop) =>
      checking.run(siteId, (p) => {
        if (stop.aborted) throw new Stopped();
        onProgress(p);
      }),
    way: (siteId, path, goal) => checking.way(siteId, path, goal),
  };
}

const file = fileURLToPath(new URL('../workers/checks.js', import.meta.url));
/** How long an idle thread is kept, in milliseconds: it remembers how pages are written. */
const IDLE_MS = 15 * 60_000;

interface Waiting {
  readonly end: (answer: Answer) => void;
  readonly fail: (error: Error) => void;
  readonly onProgress: (p: Progress) => void;
}

/** In a thread of its own, begun when it is needed, ended when it rests. */
function inThread(start: ThreadStart): Worked {
  let worker: Worker | undefined;
  let idle: NodeJS.Timeout | undefined;
  let asked = 0;
  const waiting = new Map<number, Waiting>();
  const end = (error: Error) => {
    worker = undefined;
    for (const w of waiting.values()) w.fail(error);
    waiting.clear();
  };
  const begun = (): Worker => {
    if (worker) return worker;
    const made = new Worker(file, {
      workerData: start,
      resourceLimits: threadLimits,
    });
    made.unref();
    made.on('message', (answer: Answer) => {
      const w = waiting.get(answer.id);
      if (!w) return;
      if ('progress' in answer) return w.onProgress(answer.progress);
      waiting.delete(answer.id);
      w.end(answer);
    });
    made.on('error', end);
    made.on('exit', () => made === worker && end(new Error('the thread for checks ended')));
    worker = made;
    return made;
  };
  const rest = () => {
    clearTimeout(idle);
    idle = setTimeout(() => {
      if (waiting.size) return rest();
      const resting = worker;
      worker = undefined;
      void resting?.terminate();
    }, IDLE_MS).unref();
  };
  const ask = (
    what: Omit<Ask, 'id'>,
    onProgress: (p: Progress) => void,
    stop?: AbortSignal,
  ): Promise<Answer> => {
    const id = ++asked;
    rest();
    return new Promise((resolve, reject) => {
      waiting.set(id, { end: resolve, fail: reject, onProgress });
      const thread = begun();
      thread.postMessage({ ...what, id });
      stop?.addEventListener('abort', () => thread.postMessage({ id, do: 'stop' } satisfies Ask), {
        once: true,
      });
    });
  };
  return {
    async run(site, onProgress, stop) {
      const answer = await ask({ do: 'run', site } as Omit<Ask, 'id'>, onProgress, stop);
      if ('checked' in answer) return answer.checked;
      throw 'stopped' in answer ? new Stopped() : new Error('error' in answer ? answer.error : 'no answer');
    },
    async way(site, path, goal) {
      const answer = await ask({ do: 'way', site, path, goal } as Omit<Ask, 'id'>, () => {});
      if ('steps' in answer) return answer.steps;
      throw new Error('error' in answer ? answer.error : 'no answer');
    },
  };
}
