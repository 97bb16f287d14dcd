import { reachOf } from '../services/outside/reach';
import { createServer, type RequestListener, type Server } from 'node:http';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import pino from 'pino';
import { z } from 'zod';
import { folderBlobs } from '../data/blobs';
import { openStore } from '../data/database';
import * as services from '../services';
import { PerSite, Recent } from '../services/cache';
import type { Ctx } from '../services/context';
import { forgetOldActivity } from '../services/people/activity';
import { newPasswordLetter, sendToOffice } from '../services/people/office-letters';
import { hasOwner } from '../services/people/people';
import { forgetAttempts } from '../services/people/attempts';
import { forgetOver } from '../services/account/account';
import { checkByNight } from '../services/checks/night';
import { lettersOfTheDay } from '../services/letters/clock';
import { sendDue } from '../services/letters/outbox';
import { smtpMailer } from '../services/mail/mailer';
import { reconcileSilent } from '../services/till/payment';
import { resendRefunds } from '../services/till/refunds';
import { resendReturns } from '../services/till/surplus';
import { releaseExpired } from '../services/till/reserve';
import { chargeDue } from '../services/till/subscriptions';
import { clientFrom, isOneOf } from './client-address';
import { backUpByNight, backUpInProcess } from './nightly-backup';
import { holdBack, watchful } from './connections';
import { draftListener } from './draft/listener';
import type { App } from './office/app';
import { type Accounts, afterReset, makeAccounts } from './office/accounts';
import { makeAuth } from './office/auth';
import { officeListener } from './office/listener';
import { makeWelcome } from './office/welcome';
import { publicListener } from './public/listener';
import { PreparedAnswers } from './public/prepared';
import { loadWidgets } from './public/widget-files';
import { readSettings, type Settings, SettingsError } from './settings';

/** dist/, where this file is built to: beside it stand the widgets, the office and the migrations. */
const dist = fileURLToPath(new URL('..', import.meta.url));
const LETTERS_MS = 2_000;
const CALENDAR_MS = 5 * 60_000;

async function main(): Promise<void> {
  const settings = await readSettings(process.env);
  const log = pino({ level: settings.logLevel, redact: ['*.password', '*.token', '*.key', '*.secret'] });
  const store = await openStore(settings.database, join(dist, 'migrations'));
  const answers = new PreparedAnswers();
  const memo = new PerSite(PreparedAnswers.LIFETIME_MS);
  const widgets = await loadWidgets(join(dist, 'widgets'), settings.shop);
  const ctx: Ctx = {
    store,
    log,
    blobs: folderBlobs(join(settings.data, 'blobs')),
    folders: { roots: settings.folders, own: [settings.data, dist, process.cwd()] },
    journals: join(settings.data, 'journals'),
    addresses: { office: settings.office, shop: settings.shop, draft: settings.draft },
    providers: settings.providers,
    signing: settings.signing,
    reach: reachOf(
      (address) => isOneOf(settings.privateNetworks, address),
      // Where the shop is and where the host shows sites is the word of whoever runs the program.
      (url) =>
        [settings.shop, settings.host?.endpoint].some((own) => own && new URL(own).origin === url.origin),
    ),
    host: settings.host,
    mail: settings.mail && smtpMailer(settings.mail.server, settings.mail.from),
    pinned: widgets.pinned,
    pictures: new Recent(300),
    made: join(settings.data, 'made'),
    now: () => new Date(),
    threads: {
      database: settings.database,
      migrations: join(dist, 'migrations'),
      blobs: join(settings.data, 'blobs'),
      addresses: { office: settings.office, shop: settings.shop },
      providers: Object.keys(settings.providers),
      sendsLetters: settings.mail !== undefined,
    },
    memo,
    changed: (siteId) => {
      memo.drop(siteId);
      answers.drop(siteId);
    },
  };
  await services.publish.resumePublishings(ctx);
  const auth = makeAuth(store, {
    officeUrl: settings.office,
    secret: settings.authSecret,
    sendReset: ({ email, name }, token) =>
      void sendToOffice(
        ctx,
        email,
        newPasswordLetter(name, `${settings.office}/new-password?token=${token}`),
      ),
    wasReset: (person) => afterReset(ctx, person),
  });
  const accounts = makeAccounts(ctx, auth);
  const demoOwner = await demo(ctx, accounts);
  const app: App = { ctx, accounts, welcome: makeWelcome(), services, demoOwner };
  const clientOf = clientFrom(settings.proxies);

  const { handler } = (await import(pathToFileURL(join(dist, 'office/server/entry.mjs')).href)) as {
    handler: Parameters<typeof officeListener>[1];
  };
  const inlineScripts = await inlineScriptsOf(join(dist, 'office'));
  const clientDir = join(dist, 'office/client');
  const office = officeListener(app, handler, { clientDir, clientOf, inlineScripts });
  const { writesPerMinute } = settings;
  const shop = publicListener(ctx, { files: widgets.files, answers, writesPerMinute, clientOf });
  const open = (listener: RequestListener, nth: number, what: string, requestMs: number) =>
    listen(serverOf(settings, listener, requestMs), settings.port + nth, what);
  const servers = await Promise.all([
    open(office, 0, 'the office', UPLOAD_MS),
    open(shop, 1, 'the shop endpoints', SHOPPER_MS),
    open(draftListener(ctx, widgets.frame), 2, 'the drafts', SHOPPER_MS),
  ]);
  const every = (ms: number, what: string, round: () => Promise<unknown>) =>
    setInterval(
      () => void round().catch((error: unknown) => log.error({ error: String(error) }, `${what} failed`)),
      ms,
    );
  const rounds = [
    every(settings.sweepSeconds * 1000, 'sweep', () =>
      Promise.all([
        releaseExpired(ctx),
        forgetOver(ctx),
        forgetAttempts(ctx),
        forgetOldActivity(ctx),
        chargeDue(ctx),
        reconcileSilent(ctx),
        resendRefunds(ctx),
        resendReturns(ctx),
      ]),
    ),
    every(
      LETTERS_MS,
      'sending letters',
      oneAtATime(() => sendDue(ctx)),
    ),
    every(CALENDAR_MS, 'finding letters of the day', () => lettersOfTheDay(ctx)),
    every(
      CALENDAR_MS,
      'checking by night',
      oneAtATime(() => checkByNight(ctx)),
    ),
  ];
  const { nightly } = settings;
  if (nightly) {
    const make = backUpInProcess(join(dist, 'cli/main.js'), settings.data, nightly.phraseFile);
    rounds.push(
      every(
        CALENDAR_MS,
        'the backup of the night',
        oneAtATime(() => backUpByNight(ctx, nightly, make)),
      ),
    );
  }
  await announce(settings, app);
  stopOn(servers, rounds, () => store.close());
}

/** A round that is not begun again while it still goes. */
function oneAtATime(round: () => Promise<unknown>): () => Promise<unknown> {
  let going = false;
  return async () => {
    if (going) return;
    going = true;
    try {
      await round();
    } finally {
      going = false;
    }
  };
}

/** The demo's owner is made by the server itself, so that passwords are only ever hashed in one place. */
async function demo(ctx: Ctx, accounts: Accounts): Promise<App['demoOwner']> {
  const {
    STALL_DEMO_EMAIL: email,
    STALL_DEMO_PASSWORD: password,
    STALL_DEMO_NAME: name = 'Marnie',
  } = process.env;
  if (!email || !password) return undefined;
  if (!(await hasOwner(ctx))) await accounts.found({ name, email, password });
  return { email, password };
}

/** Connections that wait to be taken in: more are turned away by the system, and browsers come again only after a second or more. */
const WAITING_CONNECTIONS = 4_096;

/**
 * How long the headers of a request may take, a request of a shopper's, and one that brings a whole site; in
 * milliseconds. Chosen by hand.
 */
const HEADERS_MS = 10_000;
const SHOPPER_MS = 30_000;
const UPLOAD_MS = 20 * 60_000;

const serverOf = (settings: Settings, listener: RequestListener, requestMs: number): Server =>
  holdBack(createServer(watchful, listener), settings.proxies.trusted, {
    fromOne: settings.connectionsFromOne,
    headersMs: HEADERS_MS,
    requestMs,
  });

/** The framework's own inline scripts, as the build has written them down. */
async function inlineScriptsOf(folder: string): Promise<readonly string[]> {
  const text = await readFile(join(folder, 'inline-scripts.json'), 'utf8');
  return z.array(z.string().regex(/^'sha256-[\w+/=]+'$/)).parse(JSON.parse(text));
}

function listen(server: Server, port: number, what: string): Promise<Server> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const taken = error.code === 'EADDRINUSE';
      reject(
        new SettingsError(
          taken
            ? `Port ${port}, wanted for ${what}, is taken by another program. Stop that program, or choose other ports with --port N (three in a row are used, eight by the demo).`
            : `Cannot listen on port ${port} for ${what}: ${error.message}`,
        ),
      );
    });
    const at = { port, host: process.env.STALL_BIND ?? '127.0.0.1', backlog: WAITING_CONNECTIONS };
    server.listen(at, () => resolve(server));
  });
}

async function announce(settings: Settings, app: App): Promise<void> {
  const ready = { office: settings.office, shop: settings.shop };
  app.ctx.log.info(ready, 'Green Stall is open');
  if (!(await hasOwner(app.ctx))) {
    process.stdout.write(
      `\n  The first owner comes in here, once:\n  ${settings.office}/welcome?key=${app.welcome.key}\n\n`,
    );
  }
  process.send?.({ ready: true });
}

function stopOn(servers: Server[], rounds: readonly NodeJS.Timeout[], close: () => void): void {
  const stop = () => {
    for (const round of rounds) clearInterval(round);
    let left = servers.length;
    for (const server of servers) {
      server.close(() => {
        if (--left === 0) {
          close();
          process.exit(0);
        }
      });
      server.closeIdleConnections();
    }
    setTimeout(() => process.exit(0), 3000).unref();
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
}

main().catch((error: unknown) => {
  const unexpected = error instanceof Error && !(error instanceof SettingsError);
  process.stderr.write(
    `\n${(unexpected && error.stack) || (error instanceof Error ? error.message : String(error))}\n\n`,
  );
  process.exit(1);
});
