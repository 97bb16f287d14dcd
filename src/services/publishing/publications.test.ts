import { UNWRITTEN } from '../../core/placement/kinds/notice';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { listPitches } from '../../core/site/pitch';
import { makeWorld, tinySite, type World, zipFrom } from '../testing';
import { addSelling } from '../sites/add-selling';
import { changedFiles, fileTexts } from './diff';
import { sites } from '../../data/schema';
import { hasBeenPutUp } from './put-up';
import { bringInNewer } from '../sites/newer';
import { change, place } from '../sites/placing';
import { leave, publish, rollBack } from './publish';
import { currentPublication, loadPage, type Site } from '../sites/site';
import { readSlip } from '../sites/slip';
import { draftState, publishedState } from '../sites/state';
import { placeRow } from '../sites/testing';
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

const answers = { country: 'GB', currency: 'GBP' };
const liveManifest = async (site: Site) => (await currentPublication(w.ctx, site.row))?.manifest ?? {};

describe('publications', () => {
  it('are compared page by page, gone back to byte for byte, and left without a trace', async () => {
    await w.addGoods('Trug', 4200, 3);
    const own = (await w.site()).manifest;
    await placeRow(w, await w.site());
    const first = await publish(w.ctx, await w.site(), 'test');
    const then = await liveManifest(await w.site());
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    const { files } = await changedFiles(w.ctx, await w.site());
    expect(files.filter((f) => f.what === 'added').map((f) => f.path)).toEqual([
      'order-lookup/index.html',
      'shop/index.html',
      'your-orders/index.html',
    ]);
    const texts = await fileTexts(w.ctx, await w.site(), 'index.html');
    expect([texts.before.includes('<stall-cart'), texts.after.includes('<stall-cart')]).toEqual([
      false,
      true,
    ]);
    await expect(fileTexts(w.ctx, await w.site(), 'nowhere.html')).rejects.toThrow('no file nowhere.html');
    await publish(w.ctx, await w.site(), 'test');
    await rollBack(w.ctx, await w.site(), first.id, 'test');
    expect(await liveManifest(await w.site())).toEqual(then);
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
    const slip = await readSlip(w.ctx, await w.site());
    expect(slip.past.map((p) => p.current)).toEqual([true, false, false]);
    await expect(rollBack(w.ctx, await w.site(), slip.past[0]?.id ?? '', 'test')).rejects.toThrow('live now');
    const proof = await leave(w.ctx, await w.site(), 'test');
    expect(proof.same).toBe(proof.all);
    expect(proof.removed).toContain('cart/index.html');
    expect(await liveManifest(await w.site())).toEqual(own);
    expect(publishedState(await currentPublication(w.ctx, (await w.site()).row))).toEqual({
      placements: [],
      menu: [],
      repairs: [],
      shop: null,
      look: null,
    });
  });
});

/** A site whose host may refuse, like a disk that is full or a password that was changed. */
async function hosted(): Promise<{ answers: { status: number }; end: () => void }> {
  const answers = { status: 201 };
  const server = createServer((req, res) => {
    req.resume();
    req.on('end', () => void res.writeHead(answers.status).end());
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const endpoint = `http://127.0.0.1:${(server.address() as AddressInfo).port}/sites/tiny`;
  await w.ctx.store.write((tx) => tx.update(sites).set({ delivery: { to: 'host', endpoint, key: 'k' } }));
  return { answers, end: () => server.close() };
}

it('leaving and going back, where the host refuses, leave draft, history and live site as they were', async () => {
  const host = await hosted();
  try {
    await w.addGoods('Trug', 4200, 3);
    await placeRow(w, await w.site());
    const first = await publish(w.ctx, await w.site(), 'test');
    await addSelling(w.ctx, await w.site(), { setUp: answers });
    await publish(w.ctx, await w.site(), 'test');
    await placeRow(w, await w.site(), { heading: 'Waits' });
    const before = {
      draft: await draftState(w.ctx, await w.site()),
      slip: await readSlip(w.ctx, await w.site()),
      live: await liveManifest(await w.site()),
    };
    host.answers.status = 507;
    await expect(leave(w.ctx, await w.site(), 'test')).rejects.toThrow();
    await expect(rollBack(w.ctx, await w.site(), first.id, 'test')).rejects.toThrow();
    await expect(publish(w.ctx, await w.site(), 'test')).rejects.toThrow();
    expect({
      draft: await draftState(w.ctx, await w.site()),
      slip: await readSlip(w.ctx, await w.site()),
      live: await liveManifest(await w.site()),
    }).toEqual(before);
    host.answers.status = 201;
    expect((await rollBack(w.ctx, await w.site(), first.id, 'test')).delivered).toBe('host');
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
    const proof = await leave(w.ctx, await w.site(), 'test');
    expect(proof.same).toBe(proof.all);
    expect(await draftState(w.ctx, await w.site())).toEqual({
      placements: [],
      menu: [],
      repairs: [],
      shop: null,
      look: null,
    });
  } finally {
    host.end();
  }
});

it('words that only hold a place do not go live: the owner is asked for their own first', async () => {
  const site = await w.site();
  const [pitch] = listPitches(await loadPage(w.ctx, site, 'about/index.html'));
  if (!pitch) throw new Error('no pitch');
  const made = await place(w.ctx, site, {
    kind: 'notice',
    settings: { text: UNWRITTEN },
    pitch: pitch.address,
    pitchLabel: pitch.label,
    reach: { to: 'page', page: 'about/index.html' },
  });
  await expect(publish(w.ctx, await w.site(), 'test')).rejects.toThrow(/notice on About still says/);
  await change(w.ctx, await w.site(), made.id, { settings: { text: 'Closed in May.' } });
  expect((await publish(w.ctx, await w.site(), 'test')).changes).toBe(1);
});

it('what the owner puts up is compared with what was published, page by page', async () => {
  await w.addGoods('Trug', 4200, 3);
  await placeRow(w, await w.site());
  expect(await publish(w.ctx, await w.site(), 'test')).toMatchObject({ delivered: 'download' });
  const manifest = await liveManifest(await w.site());
  const up = new Map<string, Buffer>();
  const server = createServer((req, res) => {
    const path = `${(req.url ?? '/').slice(1)}`.replace(/\/$|^$/, (m) => `${m}index.html`);
    const bytes = up.get(path);
    void res.writeHead(bytes ? 200 : 404, { 'content-type': 'text/html' }).end(bytes);
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  try {
    const liveUrl = `http://tiny.localhost:${(server.address() as AddressInfo).port}/`;
    await w.ctx.store.write((tx) => tx.update(sites).set({ liveUrl }));
    const none = await hasBeenPutUp(w.ctx, await w.site());
    expect([none.same, none.other.length]).toEqual([0, none.looked]);
    for (const [path, hash] of Object.entries(manifest)) up.set(path, await w.ctx.blobs.get(hash));
    expect(await hasBeenPutUp(w.ctx, await w.site())).toMatchObject({ same: none.looked, other: [] });
    up.set('cart/index.html', Buffer.from('<p>altered by the host'));
    expect((await hasBeenPutUp(w.ctx, await w.site())).other).toEqual([
      { address: '/cart/', message: 'is there, but not as it was published' },
    ]);
  } finally {
    server.close();
  }
});

it('leaving does not bring a newer version out that only waits in the draft', async () => {
  await w.addGoods('Trug', 4200, 3);
  await placeRow(w, await w.site());
  const own = (await w.site()).manifest;
  await publish(w.ctx, await w.site(), 'test');
  await bringInNewer(w.ctx, await w.site(), {
    how: 'zip',
    fileName: 'n.zip',
    bytes: zipFrom({ ...tinySite, 'new.html': '<title>New</title><p>New' }),
  });
  const proof = await leave(w.ctx, await w.site(), 'test');
  expect(await liveManifest(await w.site())).toEqual(own);
  expect([proof.same, proof.all]).toEqual([2, 2]);
});
