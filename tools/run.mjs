// Starts the application, and for the demo the stand-ins and the demo data. Called by bin/demo and bin/start.
import { randomBytes } from 'node:crypto';
import { fork } from 'node:child_process';
import { access, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { connect } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const dist = fileURLToPath(new URL('../dist', import.meta.url));
const [mode = 'demo', ...args] = process.argv.slice(2);
const usage = `Usage: bin/${mode} [--data DIR] [--port N]${mode === 'demo' ? ' [--fresh] [--bare]' : ''}
  --data DIR  where everything is kept (default: data/${mode})
  --port N    first of ${mode === 'demo' ? 'eight' : 'three'} ports in a row (default: 4600)${
    mode === 'demo'
      ? `
  --fresh     throw the demo's data away and start over
  --bare      no demo data: come in as a new owner does`
      : ''
  }`;

const stop = (message) => {
  process.stderr.write(`\n${message}\n\n`);
  process.exit(1);
};

const options = { data: `data/${mode}`, port: 4600, fresh: false, bare: false };
for (let i = 0; i < args.length; i++) {
  const arg = args[i];
  if (arg === '--help' || arg === '-h') {
    process.stdout.write(`${usage}\n`);
    process.exit(0);
  } else if (arg === '--fresh' && mode === 'demo') options.fresh = true;
  else if (arg === '--bare' && mode === 'demo') options.bare = true;
  else if (arg === '--data' && args[i + 1]) options.data = args[++i];
  else if (arg === '--port' && /^\d+$/.test(args[i + 1] ?? '') && Number(args[i + 1]) <= 65_000)
    options.port = Number(args[++i]);
  else stop(`Not understood: ${arg}\n\n${usage}`);
}

const data = resolve(options.data);
const { port } = options;
const busy = (p) =>
  new Promise((done) => {
    const socket = connect(p, '127.0.0.1', () => {
      socket.destroy();
      done(true);
    });
    socket.on('error', () => done(false));
  });
for (let p = port; p < port + (mode === 'demo' ? 8 : 3); p++) {
  if (await busy(p))
    stop(
      `Port ${p} is taken by another program. Stop it, or choose other ports: bin/${mode} --port ${port + 100}`,
    );
}

if (options.fresh) {
  if (
    !(await access(join(data, 'stall.db')).then(
      () => true,
      () => false,
    )) &&
    !(await access(data).then(
      () => false,
      () => true,
    ))
  ) {
    stop(
      `${data} holds no Green Stall data, so --fresh leaves it alone. Name another folder with --data DIR.`,
    );
  }
  await rm(data, { recursive: true, force: true });
}

const isThere = (path) =>
  access(path).then(
    () => true,
    () => false,
  );

/** Level by level: Node's recursive mkdir never returns where a folder that is there refuses any child (/proc). */
async function makeFolder(dir) {
  const there = () => isThere(dir);
  if (await there()) return;
  if (dir !== dirname(dir)) await makeFolder(dirname(dir));
  await mkdir(dir).catch(async (e) => {
    if (e.code !== 'EEXIST' || !(await there())) throw e;
  });
}
await makeFolder(data).catch((e) =>
  stop(`The data folder ${data} cannot be made (${e.code}). Choose another with --data DIR.`),
);

const env = { ...process.env, STALL_DATA: data, STALL_PORT: String(port) };
const children = [];
const start = (file, extra = {}) =>
  new Promise((ready, failed) => {
    const child = fork(join(dist, file), {
      env: { ...env, ...extra },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    children.push(child);
    child.once('message', () => ready(child));
    child.once('exit', (code) => (code === 0 ? ready(child) : failed(code)));
  });
const end = (code) => {
  for (const c of children) c.kill('SIGTERM');
  setTimeout(() => process.exit(code), 400);
};
process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));

/** Keys shared with the stand-ins: made once for this data. */
async function standinKeys() {
  const file = join(data, 'standins.json');
  const known = await readFile(file, 'utf8').then(JSON.parse, () => undefined);
  if (known?.wallet) return known;
  const made = {
    cards: randomBytes(18).toString('hex'),
    notices: `whsec_${randomBytes(24).toString('base64')}`,
    host: randomBytes(18).toString('hex'),
    wallet: randomBytes(18).toString('hex'),
    walletNotices: `whsec_${randomBytes(24).toString('base64')}`,
  };
  await writeFile(file, JSON.stringify(made), { mode: 0o600 }).catch((e) =>
    stop(`The data folder ${data} cannot be written (${e.code}). Choose another with --data DIR.`),
  );
  return made;
}

const owner = { email: 'marnie@withybed.example', password: 'forty-one willows' };
try {
  if (mode === 'demo') {
    const keys = await standinKeys();
    Object.assign(env, {
      STALL_CARDS_API: `http://127.0.0.1:${port + 4}/v1`,
      STALL_CARDS_PAGES: `http://cards.localhost:${port + 4}`,
      STALL_CARDS_KEY: keys.cards,
      STALL_CARDS_NOTICE_SECRET: keys.notices,
      STALL_WALLET_API: `http://127.0.0.1:${port + 7}/v1`,
      STALL_WALLET_PAGES: `http://wallet.localhost:${port + 7}`,
      STALL_WALLET_KEY: keys.wallet,
      STALL_WALLET_NOTICE_SECRET: keys.walletNotices,
      STALL_HOST_ENDPOINT: `http://127.0.0.1:${port + 3}`,
      STALL_HOST_KEY: keys.host,
      STALL_HOST_LIVE_URL: `http://*.localhost:${port + 3}/`,
      // Sites of the demo live on this machine.
      STALL_PRIVATE_NETWORKS: process.env.STALL_PRIVATE_NETWORKS ?? '127.0.0.0/8 ::1',
      STALL_FOLDERS: process.env.STALL_FOLDERS ?? join(data, 'live'),
      STALL_SMTP: `smtp://127.0.0.1:${port + 6}`,
      STALL_MAIL_FROM: 'shop@green-stall.example',
      STALL_LOG: process.env.STALL_LOG ?? 'warn',
    });
    if (!options.bare)
      Object.assign(env, { STALL_DEMO_EMAIL: owner.email, STALL_DEMO_PASSWORD: owner.password });
    await Promise.all([
      start('standins/card-provider.js', {
        CARDS_PORT: String(port + 4),
        CARDS_KEY: keys.cards,
        CARDS_NOTICE_SECRET: keys.notices,
        CARDS_FILE: join(data, 'cards.json'),
      }),
      start('standins/wallet.js', {
        WALLET_PORT: String(port + 7),
        WALLET_KEY: keys.wallet,
        WALLET_NOTICE_SECRET: keys.walletNotices,
        WALLET_FILE: join(data, 'wallet.json'),
      }),
      start('standins/mailbox.js', {
        MAILBOX_PORT: String(port + 5),
        MAILBOX_SMTP_PORT: String(port + 6),
        MAILBOX_DATA: join(data, 'mailbox'),
      }),
      start('standins/site-host.js', {
        HOST_PORT: String(port + 3),
        HOST_KEY: keys.host,
        HOST_DATA: join(data, 'host'),
      }),
    ]);
    // Seeding looks whether there is anything to do, but loading it takes longer than looking here.
    const seeded = join(data, 'demo-seeded');
    if (!options.bare && !((await isThere(seeded)) && (await isThere(join(data, 'stall.db'))))) {
      await start('demo/seed.js');
      await writeFile(
        seeded,
        'The demo data was made. Delete this file to have it looked over at the next start.\n',
      );
    }
  }
  const server = await start('server/main.js');
  server.on('exit', (code) => end(code ?? 0));
  if (mode === 'demo' && !options.bare) {
    process.stdout.write(`
  Green Stall is open, with Withybed Weavers.

  The office, for the owner   http://localhost:${port}/
      sign in with            ${owner.email}
      password                ${owner.password}
  The live site, for shoppers http://withybed.localhost:${port + 3}/
  Card service (make-believe) http://cards.localhost:${port + 4}/
  Wallet (make-believe)       http://wallet.localhost:${port + 7}/
  Mailbox (make-believe)      http://mailbox.localhost:${port + 5}/

  Ctrl+C closes it. --fresh starts over.

`);
  }
  process.send?.({ ready: true });
} catch {
  end(1);
}
