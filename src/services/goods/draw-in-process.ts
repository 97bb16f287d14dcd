import { type ChildProcess, fork } from 'node:child_process';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { drawPicture } from './draw-picture';

/** What drawing one picture may cost. Chosen by hand: 80 million pixels of a photograph take 2 s and 350 MB here. */
export interface DrawingLimits {
  readonly ms: number;
  /** Memory of the process, in bytes. */
  readonly memory: number;
}
const usual: DrawingLimits = { ms: 20_000, memory: 1_200_000_000 };

/** How often the memory is looked at, and how long an idle process is kept, in milliseconds. */
const LOOK_MS = 150;
const IDLE_MS = 30_000;

/** What came of it: the picture, that it is none, or that it took too much. */
export type Drawn = { readonly made: Buffer } | { readonly is: 'no picture' | 'too much' };

/**
 * Draws pictures in a process of its own, one after the other. A few hundred bytes of SVG can ask for minutes of work, which no thread
 * can be stopped in: a process can be ended.
 */
export class ProcessDrawer {
  #child: ChildProcess | undefined;
  #turn: Promise<unknown> = Promise.resolve();
  #idle: NodeJS.Timeout | undefined;

  constructor(
    private readonly program: string,
    private readonly limits: DrawingLimits = usual,
  ) {}

  draw(bytes: Uint8Array): Promise<Drawn> {
    const drawn = this.#turn.then(() => this.#one(bytes));
    this.#turn = drawn.catch(() => {});
    return drawn;
  }

  #process(): ChildProcess {
    clearTimeout(this.#idle);
    if (this.#child?.connected) return this.#child;
    const child = fork(this.program, {
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      execArgv: [],
    });
    // It keeps nobody from ending.
    child.unref();
    child.channel?.unref();
    this.#child = child;
    return child;
  }

  #one(bytes: Uint8Array): Promise<Drawn> {
    const child = this.#process();
    child.channel?.ref();
    return new Promise((done) => {
      const end = (drawn: Drawn) => {
        clearTimeout(late);
        clearInterval(look);
        child.removeAllListeners('message');
        child.removeAllListeners('exit');
        child.channel?.unref();
        this.#idle = setTimeout(() => child.kill(), IDLE_MS);
        this.#idle.unref();
        done(drawn);
      };
      const stop = () => {
        child.kill('SIGKILL');
        end({ is: 'too much' });
      };
      const late = setTimeout(stop, this.limits.ms);
      const look = setInterval(
        () => void memoryOf(child.pid).then((used) => used > this.limits.memory && stop()),
        LOOK_MS,
      );
      child.once('message', ({ made }: { made?: Uint8Array }) =>
        end(made ? { made: Buffer.from(made) } : { is: 'no picture' }),
      );
      // It ended by itself: what draws gave up, or the machine ended it.
      child.once('exit', () => end({ is: 'too much' }));
      child.send(bytes, (error) => error && end({ is: 'too much' }));
    });
  }

  /** Ends the process. */
  close(): void {
    this.#child?.kill('SIGKILL');
  }
}

/** Memory of a process as the kernel tells it (proc(5), VmRSS), in bytes; 0 where it tells nothing. */
async function memoryOf(pid: number | undefined): Promise<number> {
  const text = await readFile(`/proc/${pid}/status`, 'utf8').catch(() => '');
  return Number(/^VmRSS:\s+(\d+) kB/m.exec(text)?.[1] ?? 0) * 1024;
}

const program = fileURLToPath(new URL('../workers/picture.js', import.meta.url));
let drawer: ProcessDrawer | undefined;

/** Draws a picture that came from outside; in this process where the sources run by themselves (tests). */
export async function drawApart(bytes: Uint8Array): Promise<Drawn> {
  if (!existsSync(program)) {
    const made = await drawPicture(bytes);
    return made ? { made } : { is: 'no picture' };
  }
  drawer ??= new ProcessDrawer(program);
  return drawer.draw(bytes);
}
