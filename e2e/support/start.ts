import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BARE, DEMO, STRANGE } from './places';

/** Starts three installations by the same program that bin/demo runs: two empty ones, for new owners and for strangers' sites, and the demo. */
export default async function start() {
  const dir = await mkdtemp(join(tmpdir(), 'stall-e2e-'));
  process.env.STALL_E2E_DIR = dir;
  const bare = await run(
    ['--bare', '--data', join(dir, 'bare'), '--port', String(BARE)],
    /\/welcome\?key=[\w-]+/,
  );
  const strange = await run(
    ['--bare', '--data', join(dir, 'strange'), '--port', String(STRANGE)],
    /\/welcome\?key=[\w-]+/,
  );
  const demo = await run(['--data', join(dir, 'demo'), '--port', String(DEMO)], /Ctrl\+C closes it/);
  process.env.STALL_E2E_WELCOME = `http://localhost:${BARE}${bare.found}`;
  process.env.STALL_E2E_STRANGE = `http://localhost:${STRANGE}${strange.found}`;
  return async () => {
    for (const child of [bare.child, strange.child, demo.child]) child.kill('SIGTERM');
    await new Promise((soon) => setTimeout(soon, 800));
    await rm(dir, { recursive: true, force: true });
  };
}

function run(args: string[], ready: RegExp): Promise<{ child: ChildProcess; found: string }> {
  const child = spawn(process.execPath, ['tools/run.mjs', 'demo', ...args], {
    stdio: ['ignore', 'pipe', 'pipe'],
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
