import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { group, groups, type Installation } from './groups';
import { BARE, DEMO, STRANGE } from './places';

/**
 * Starts installations by the same program that bin/demo runs: the demo and an empty one for new owners, and one more for owners with
 * strangers' sites. Where only a group is run (STALL_E2E), only what it needs.
 */
export default async function start() {
  const dir = await mkdtemp(join(tmpdir(), 'stall-e2e-'));
  process.env.STALL_E2E_DIR = dir;
  const needed = (one: Installation) => !group || groups[group]?.needs.includes(one);
  const children: ChildProcess[] = [];
  const bare = async (name: string, port: number): Promise<string> => {
    const args = ['--bare', '--data', join(dir, name), '--port', String(port)];
    const { child, found } = await run(args, /\/welcome\?key=[\w-]+/);
    children.push(child);
    return `http://localhost:${port}${found}`;
  };
  if (needed('strange')) process.env.STALL_E2E_STRANGE = await bare('strange', STRANGE);
  if (needed('bare')) process.env.STALL_E2E_WELCOME = await bare('bare', BARE);
  if (needed('demo')) {
    const demo = await run(['--data', join(dir, 'demo'), '--port', String(DEMO)], /Ctrl\+C closes it/);
    children.push(demo.child);
  }
  return async () => {
    for (const child of children) child.kill('SIGTERM');
    await new Promise((soon) => setTimeout(soon, 800));
    await rm(dir, { recursive: true, force: true });
  };
}

function run(args: string[], ready: RegExp): Promise<{ child: ChildProcess; found: string }> {
  const child = spawn(process.execPath, ['tools/run.mjs', 'demo', ...args], {
    stdio: ['ignore', 'pipe', 'pipe'],
    // What comes back by itself, and is waited for, comes back soon.
    env: { ...process.env, STALL_SWEEP_SECONDS: '2' },
  });
  return new Promise((resolve, reject) => {
    let out = '';
    const hear = (chunk: Buffer) => {
      out += chunk;
      const found = ready.exec(out)?.[0];
      if (found) resolve({ child, found });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', (code) => reject(new Error(`the installation stopped (${code}):\n${out}`)));
    setTimeout(() => reject(new Error(`not ready in 60 seconds:\n${out}`)), 60_000).unref();
  });
}
