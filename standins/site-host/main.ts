import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { mkdir, readFile, readlink, rename, stat, symlink, writeFile } from 'node:fs/promises';
import { dirname, join, normalize, resolve } from 'node:path';
import { unzipSync } from 'fflate';
import { lookup } from 'mrmime';

/**
 * A make-believe web host. It serves each site on an origin of its own ("withybed.localhost") and takes a new version
 * as a ZIP: PUT /sites/NAME (docs/web-host.md). A version is unpacked beside the old one and switched over at once.
 * A folder of this machine is served as it stands: PUT /sites/NAME with {"folder": …} as JSON.
 */
const port = Number(process.env.HOST_PORT ?? 4603);
const key = process.env.HOST_KEY ?? '';
const root = resolve(process.env.HOST_DATA ?? 'data/host');
/** Sites served straight from a folder of this machine, by name. */
const folders = new Map(
  await readFile(join(root, 'folders.json'), 'utf8').then(
    (text) => Object.entries(JSON.parse(text) as Record<string, string>),
    () => [],
  ),
);
const LIMIT = 600 * 1024 * 1024;

const folderOf = (name: string): string => folders.get(name) ?? join(root, name, 'current');

async function take(req: IncomingMessage, res: ServerResponse, name: string): Promise<void> {
  if (req.headers.authorization !== `Bearer ${key}`) return void res.writeHead(401).end('unknown key');
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of req) {
    if ((size += (chunk as Buffer).length) > LIMIT) return void res.writeHead(413).end('too large');
    chunks.push(chunk as Buffer);
  }
  if (req.headers['content-type'] === 'application/json') {
    const { folder } = JSON.parse(Buffer.concat(chunks).toString('utf8')) as { folder: string };
    folders.set(name, resolve(folder));
    await mkdir(root, { recursive: true });
    await writeFile(join(root, 'folders.json'), JSON.stringify(Object.fromEntries(folders)));
    return void res.writeHead(201).end();
  }
  const version = join(root, name, `v-${randomBytes(5).toString('hex')}`);
  for (const [path, bytes] of Object.entries(unzipSync(Buffer.concat(chunks)))) {
    const file = normalize(join(version, path));
    if (!file.startsWith(version)) return void res.writeHead(422).end('a name leaves the site');
    if (path.endsWith('/')) continue;
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, bytes);
  }
  const next = join(root, name, `next-${randomBytes(4).toString('hex')}`);
  await symlink(version, next);
  await rename(next, join(root, name, 'current'));
  res
    .writeHead(201, { 'content-type': 'application/json' })
    .end(JSON.stringify({ live: `http://${name}.localhost:${port}/` }));
}

async function serve(res: ServerResponse, name: string, pathname: string): Promise<void> {
  const base = await readlink(folderOf(name)).catch(() => folderOf(name));
  const wanted = normalize(join(base, decodeURIComponent(pathname)));
  // As web servers are set up everywhere (common practice): nothing whose name begins with a dot.
  if (!wanted.startsWith(base) || /\/\.(?!well-known\/)/.test(wanted.slice(base.length)))
    return void res.writeHead(403).end();
  const isFolder = (await stat(wanted).catch(() => undefined))?.isDirectory() ?? false;
  if (isFolder && !pathname.endsWith('/')) return void res.writeHead(301, { location: `${pathname}/` }).end();
  const file = isFolder ? join(wanted, 'index.html') : wanted;
  const bytes = await readFile(file).catch(() => undefined);
  if (!bytes)
    return void res.writeHead(404, { 'content-type': 'text/plain' }).end(`${name} has no page here.`);
  res
    .writeHead(200, {
      'content-type': lookup(file) ?? 'application/octet-stream',
      'cache-control': 'no-cache',
    })
    .end(bytes);
}

createServer((req, res) => {
  const host = String(req.headers.host ?? '').split(':')[0] ?? '';
  const { pathname } = new URL(req.url ?? '/', 'http://host');
  const put = /^\/sites\/([a-z0-9]{1,40})$/.exec(pathname);
  const work =
    req.method === 'PUT' && put
      ? take(req, res, put[1] ?? '')
      : serve(res, host.replace(/\.localhost$/, ''), pathname);
  work.catch(() => res.headersSent || res.writeHead(400).end('That request makes no sense here.'));
})
  .listen(port, '127.0.0.1', () => process.send?.({ ready: true }))
  .on('error', (e: NodeJS.ErrnoException) => {
    process.stderr.write(
      `The stand-in web host cannot listen on port ${port} (${e.code}). Choose other ports with --port N.\n`,
    );
    process.exit(1);
  });
