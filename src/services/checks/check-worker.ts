import { reachOf } from '../outside/reach';
import { parentPort, workerData } from 'node:worker_threads';
import { folderBlobs } from '../../data/blobs';
import { openStore } from '../../data/database';
import { Recent } from '../cache';
import type { Addresses, Ctx, ThreadStart } from '../context';
import { helperThread } from './helper-thread';
import type { Kept } from './written-pages';
import { Checking, type Checked, type Progress, Stopped } from './compute';
import type { Step } from '../../core/checks/ways/ways';

export type Ask =
  | { readonly id: number; readonly do: 'run'; readonly site: string }
  | {
      readonly id: number;
      readonly do: 'way';
      readonly site: string;
      readonly path: string;
      readonly goal: 'product' | 'cart' | 'paid';
    }
  | { readonly id: number; readonly do: 'pages'; readonly site: string; readonly paths: readonly string[] }
  | { readonly id: number; readonly do: 'stop' };

export type Answer =
  | { readonly id: number; readonly progress: Progress }
  | { readonly id: number; readonly checked: Checked }
  | { readonly id: number; readonly steps: readonly Step[] }
  | { readonly id: number; readonly pages: readonly Kept[] }
  | { readonly id: number; readonly stopped: true }
  | { readonly id: number; readonly error: string };

/** Progress is told this often, in milliseconds. */
const TOLD_MS = 100;

async function start(
  port: NonNullable<typeof parentPort>,
  own: ThreadStart & { readonly isHelper?: true },
): Promise<void> {
  const store = await openStore(own.database, own.migrations);
  const checking = new Checking(contextOf(own, store), own.isHelper ? undefined : helperThread(own));
  const stopped = new Set<number>();
  const tell = (answer: Answer) => port.postMessage(answer);
  const work = async (ask: Ask): Promise<void> => {
    if (ask.do === 'stop') return void stopped.add(ask.id);
    if (ask.do === 'way')
      return tell({ id: ask.id, steps: await checking.way(ask.site, ask.path, ask.goal) });
    if (ask.do === 'pages') return tell({ id: ask.id, pages: await checking.pages(ask.site, ask.paths) });
    let told = 0;
    const checked = await checking.run(ask.site, (progress) => {
      if (stopped.delete(ask.id)) throw new Stopped();
      const now = performance.now();
      if (now - told < TOLD_MS) return;
      told = now;
      tell({ id: ask.id, progress });
    });
    tell({ id: ask.id, checked });
  };
  port.on('message', (ask: Ask) => {
    work(ask).catch((error: unknown) =>
      tell(
        error instanceof Stopped
          ? { id: ask.id, stopped: true }
          : { id: ask.id, error: error instanceof Error ? (error.stack ?? error.message) : String(error) },
      ),
    );
  });
}

/** A context that reads. What is not here a check has no business with. */
function contextOf(own: ThreadStart, store: Ctx['store']): Ctx {
  const addresses: Addresses = { ...own.addresses, draft: (key) => `http://${key}.invalid` };
  return {
    store,
    addresses,
    blobs: folderBlobs(own.blobs),
    folders: { roots: [], own: [] },
    journals: '',
    // Only their names are asked for here.
    providers: Object.fromEntries(
      own.providers.map((name) => [name, { api: '', pages: '', key: '', noticeSecret: '' }]),
    ),
    signing: '',
    reach: reachOf(() => false),
    host: undefined,
    mail: own.sendsLetters ? { send: async () => {} } : undefined,
    pictures: new Recent(1),
    now: () => new Date(),
    log: { info: () => {}, warn: () => {}, error: () => {} },
    changed: () => {},
  };
}

if (parentPort) void start(parentPort, workerData as ThreadStart & { readonly isHelper?: true });
