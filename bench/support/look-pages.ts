import { readFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, normalize } from 'node:path';
import { build } from 'esbuild';
import { lookup } from 'mrmime';
import type { Browser, Page } from 'playwright-core';

/** A folder served as a host would, to this machine alone. */
export async function serveFolder(root: string): Promise<{ origin: string; close: () => void }> {
  const server: Server = createServer((req, res) => {
    const path = normalize(decodeURIComponent(new URL(req.url ?? '/', 'http://x').pathname));
    readFile(join(root, path)).then(
      (bytes) => res.writeHead(200, { 'content-type': lookup(path) ?? 'text/html' }).end(bytes),
      () => res.writeHead(404).end(),
    );
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return {
    origin: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () => server.close(),
  };
}

let built: Promise<string> | undefined;

/** The office's own measuring script, put into a page as `lookMeasure`. */
const measuringScript = (): Promise<string> =>
  (built ??= build({
    stdin: {
      contents: "export { measure } from './src/office/in-page/look/measure';",
      resolveDir: process.cwd(),
      loader: 'ts',
    },
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'lookMeasure',
  }).then((out) => out.outputFiles[0]?.text ?? ''));

/** Opens a page of a served folder with nothing from elsewhere, and the measuring script in it. */
export async function openPage(browser: Browser, origin: string, path: string, width: number): Promise<Page> {
  const page = await browser.newPage({ viewport: { width, height: 800 } });
  await page.route('**/*', (route) =>
    route.request().url().startsWith(origin) || route.request().url().startsWith('data:')
      ? route.continue()
      : route.abort(),
  );
  await page.goto(`${origin}/${path}`, { waitUntil: 'load' }).catch(() => {});
  await page.evaluate(() => document.fonts.ready.then(() => {})).catch(() => {});
  await page.evaluate(await measuringScript());
  return page;
}
