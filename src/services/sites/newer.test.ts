import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { makeWorld, tinySite, type World, zipFrom } from '../testing';
import { benchView } from '../publishing/bench';
import { bringInNewer } from './newer';
import { publish } from '../publishing/publish';
import { currentPublication, type Site } from './site';
import { readSlip } from './slip';
import { undoWaiting } from './undo-waiting';
import { placeRow } from './testing';
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

const textOf = async (hash: string | undefined) => (await w.ctx.blobs.get(hash ?? '')).toString();
const liveManifest = async (site: Site) => (await currentPublication(w.ctx, site.row))?.manifest ?? {};

describe('a newer version of the site', () => {
  it('comes into the draft alone: widgets are found again, ours is taken out of it, and it is gone back from', async () => {
    await w.addGoods('Trug', 4200, 3);
    const made = await placeRow(w, await w.site());
    await publish(w.ctx, await w.site(), 'test');
    const before = await w.site();
    const live = await liveManifest(before);
    // As an owner exports it after publishing: with our marks in it, and then edited.
    const exported = Object.fromEntries(
      await Promise.all(Object.entries(live).map(async ([path, hash]) => [path, await textOf(hash)])),
    );
    const edited = {
      ...exported,
      'about/index.html': (exported['about/index.html'] ?? '').replace(
        '<main>',
        '<main><p>News of the week, quite long enough.</p>',
      ),
      'new.html': '<title>New</title><p>New',
    };
    const report = await bringInNewer(w.ctx, before, {
      how: 'zip',
      fileName: 'n.zip',
      bytes: zipFrom(edited),
    });
    expect(report.pages).toMatchObject({ added: ['new.html'], changed: ['about/index.html'], removed: [] });
    expect([report.found, report.lost]).toEqual([1, []]);
    const site = await w.site();
    expect(Object.keys(site.manifest).sort()).toEqual([...Object.keys(tinySite), 'new.html'].sort());
    expect(await textOf(site.manifest['about/index.html'])).not.toContain('stall');
    expect(await liveManifest(site)).toEqual(live);
    expect((await readSlip(w.ctx, site)).waiting.map((l) => l.id)).toEqual(['newer']);
    expect((await benchView(w.ctx, site, 'about/index.html')).placements.map((p) => p.id)).toEqual([made.id]);
    await undoWaiting(w.ctx, site, 'newer');
    expect((await w.site()).manifest).toEqual(before.manifest);
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
  });

  it('whose pitch went says so with the likeliest spot, and refuses what is no site or the same', async () => {
    await w.addGoods('Trug', 4200, 3);
    await placeRow(w, await w.site());
    const site = await w.site();
    await expect(
      bringInNewer(w.ctx, site, { how: 'zip', fileName: 'n.zip', bytes: zipFrom(tinySite) }),
    ).rejects.toThrow('nothing changed');
    await expect(
      bringInNewer(w.ctx, site, { how: 'zip', fileName: 'n.zip', bytes: zipFrom({ 'a.txt': 'x' }) }),
    ).rejects.toThrow('No page was found');
    const report = await bringInNewer(w.ctx, site, {
      how: 'zip',
      fileName: 'n.zip',
      bytes: zipFrom({ 'index.html': tinySite['index.html'] ?? '' }),
    });
    expect(report.pages.removed).toEqual(['about/index.html']);
    expect(report.lost).toMatchObject([{ page: 'about/index.html', why: expect.stringContaining('gone') }]);
  });
});
