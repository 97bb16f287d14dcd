import { placementEdit } from '../../core/placement/placement';
import { changeBetween, invert } from '../../core/change';
import { sql } from 'drizzle-orm';
import { mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { menuChange } from '../../core/placement/menu-change';
import { listPitches } from '../../core/site/pitch';
import { sha256 } from '../../data/blobs';
import { sites, snapshots } from '../../data/schema';
import { saveProduct, undoLive } from '../goods/goods';
import { takePicture } from '../goods/pictures';
import { makeWorld, tinySite, type World, zipFrom } from '../testing';
import { bringIn, siteSettings } from './bring-in';
import { limits } from '../../core/limits';
import { applyChange, change, place, takeAway } from './placing';
import { forgetJournal, type InPlace, recover, writeInPlace } from './in-place';
import { menuView, planOf, setMenuChanges } from './menus';
import { computeManifest, publish, resumePublishings } from '../publishing/publish';
import { draftPlacements, loadPage, loadSite, type Site } from './site';
import { readSlip } from './slip';
import { draftState } from './state';
import { undoWaiting } from './undo-waiting';

let w: World;
let dir: string;
beforeEach(async () => {
  w = await makeWorld();
  dir = await mkdtemp(join(tmpdir(), 'stall-site-'));
});
afterEach(async () => {
  await w.end();
  await rm(dir, { recursive: true, force: true });
});

const settings = siteSettings.parse({ currency: 'GBP', liveUrl: 'https://x.example' });
const bring = (files: Record<string, string | Uint8Array>) =>
  bringIn(w.ctx, { how: 'zip', fileName: 'x.zip', bytes: zipFrom(files) }, settings);

describe('what is brought in', () => {
  const refused: readonly (readonly [string, () => Buffer, string])[] = [
    ['no ZIP at all', () => Buffer.from('hello'), 'cannot be read as a ZIP'],
    ['a cut-off ZIP', () => zipFrom(tinySite).subarray(0, 300), 'cannot be read as a ZIP'],
    ['names that climb out', () => zipFrom({ '../evil.html': '<p>' }), 'outside the site'],
    ['absolute names', () => zipFrom({ '/etc/evil.html': '<p>' }), 'outside the site'],
    [
      'one file without end',
      () => zipFrom({ 'index.html': '<p>', 'bomb.bin': new Uint8Array(limits.siteFile.most + 1) }),
      'larger than 64 MB',
    ],
    [
      'too many files',
      () =>
        zipFrom(
          Object.fromEntries(Array.from({ length: limits.siteFiles.most + 1 }, (_, i) => [`f${i}`, ''])),
        ),
      'more than 50,000 files',
    ],
    [
      'no page',
      () => zipFrom({ 'readme.txt': 'x', 'photo.html': new Uint8Array([0, 1, 2]) }),
      'No page was found',
    ],
  ];
  it.each(refused)('%s is refused with what to do, and nothing is kept', async (_, make, says) => {
    const before = await w.ctx.store.db.$count(sites);
    await expect(bringIn(w.ctx, { how: 'zip', fileName: 'x.zip', bytes: make() }, settings)).rejects.toThrow(
      says,
    );
    expect([await w.ctx.store.db.$count(sites), await w.ctx.store.db.$count(snapshots)]).toEqual([
      before,
      before,
    ]);
    await expect(w.ctx.blobs.get(sha256(Buffer.from('<p>')))).rejects.toThrow();
  });

  it('links inside a ZIP are refused', async () => {
    const zip = zipFrom({ 'index.html': '<p>x', 'link.html': '/etc/passwd' });
    // External attributes of the second entry in the central directory: a symbolic link (S_IFLNK) as Unix archivers write it.
    const at = zip.lastIndexOf(Buffer.from('PK\x01\x02', 'latin1'));
    zip.writeUInt16LE(0x0314, at + 4);
    zip.writeUInt32LE(0xa1ff0000, at + 38);
    await expect(bringIn(w.ctx, { how: 'zip', fileName: 'x.zip', bytes: zip }, settings)).rejects.toThrow(
      'is a link, not a file',
    );
  });

  it('the folder that a ZIP was made of is not part of the addresses', async () => {
    const { reading } = await bring({
      'my site/index.html': '<title>A</title><p>x',
      'my site/b/c.html': '<p>y',
      '__MACOSX/my site/._index.html': 'junk',
    });
    expect(reading.pages.map((p) => p.path)).toEqual(['index.html', 'b/c.html']);
  });

  it('a folder is read without following links, and refused where it is none', async () => {
    await writeFile(join(dir, 'index.html'), '<title>F</title><p>x');
    await symlink('/etc', join(dir, 'etc'));
    const { reading } = await bringIn(w.ctx, { how: 'folder', folder: dir }, settings);
    expect(reading.notes.join()).toContain('etc is a link and was left alone');
    await expect(bringIn(w.ctx, { how: 'folder', folder: dir }, settings)).rejects.toThrow(
      'is connected already',
    );
    await expect(
      bringIn(w.ctx, { how: 'folder', folder: join(dir, 'index.html') }, settings),
    ).rejects.toThrow('is a file');
  });

  it('a picture that is none is refused', async () => {
    await expect(takePicture(w.ctx, Buffer.from('not a picture'))).rejects.toThrow(
      'cannot be read as a picture',
    );
    await expect(
      takePicture(
        w.ctx,
        Buffer.from(
          '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><rect width="8" height="8"/></svg>',
        ),
      ),
    ).resolves.toMatch(/^[0-9a-f]{64}$/);
  });
});

async function placeBuy(site: Site, to: 'page' | 'every' = 'page') {
  const pitch = listPitches(await loadPage(w.ctx, site, 'index.html')).find((p) =>
    p.label.startsWith(to === 'page' ? 'after “Tiny”' : 'at the end of the header'),
  );
  if (!pitch) throw new Error('no pitch');
  return place(w.ctx, site, {
    kind: to === 'page' ? 'buy' : 'cart',
    settings: to === 'page' ? { goods: 'trug' } : {},
    pitch: pitch.address,
    pitchLabel: pitch.label,
    reach: to === 'page' ? { to: 'page', page: 'index.html' } : { to: 'every', except: [] },
  });
}

describe('the slip', () => {
  it('is the difference between draft and published, and each line can be undone', async () => {
    await w.addGoods('Trug', 4200, 3);
    const site = await w.site();
    const p = await placeBuy(site);
    const first = await readSlip(w.ctx, site);
    expect(first.waiting).toMatchObject([
      { id: p.id, where: 'Home', what: 'Buy button: Trug added after “Tiny”' },
    ]);
    expect(first.shopPages).toBe('added');
    await publish(w.ctx, site, 'test');
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
    await change(w.ctx, await w.site(), p.id, { settings: { goods: 'trug', text: 'Take it' } });
    expect((await readSlip(w.ctx, await w.site())).waiting).toMatchObject([
      { what: 'Buy button: Trug changed' },
    ]);
    await undoWaiting(w.ctx, await w.site(), p.id);
    expect((await readSlip(w.ctx, await w.site())).waiting).toEqual([]);
    await takeAway(w.ctx, await w.site(), p.id);
    expect((await readSlip(w.ctx, await w.site())).waiting).toMatchObject([
      { what: 'Buy button: Trug taken away' },
    ]);
    await undoWaiting(w.ctx, await w.site(), p.id);
    expect(await draftPlacements(w.ctx, site.row.id)).toMatchObject([{ id: p.id }]);
    await expect(publish(w.ctx, await w.site(), 'test')).rejects.toThrow('Nothing waits');
  });

  it('changes of a placement what is named, and nothing beside it', () => {
    for (const part of [{ settings: { text: 'x' } }, { spelling: 'link' }, { pitchLabel: 'there' }, {}])
      expect(placementEdit.parse(part)).toEqual(part);
  });

  it('takes a step of the bench back, and what another window did meanwhile stays', async () => {
    await w.addGoods('Trug', 4200, 3);
    const site = await w.site();
    const p = await placeBuy(site);
    const mine = await change(w.ctx, site, p.id, { settings: { goods: 'trug', text: 'Mine' } });
    const step = changeBetween({ [p.id]: p }, { [p.id]: mine });
    await change(w.ctx, site, p.id, { spelling: 'link' });
    await applyChange(w.ctx, site, invert(step));
    const now = async () => (await draftPlacements(w.ctx, site.row.id))[0];
    expect(await now()).toMatchObject({ settings: p.settings, spelling: 'link' });
    // Once more is nothing more; over the very same, changed elsewhere, it is refused and nothing is lost.
    await applyChange(w.ctx, site, invert(step));
    await change(w.ctx, site, p.id, { settings: { goods: 'trug', text: 'Theirs' } });
    await expect(applyChange(w.ctx, site, invert(step))).rejects.toThrow('changed since');
    expect((await now())?.settings).toMatchObject({ text: 'Theirs' });
    // Somebody who means ill: a record under another's name, one that is none, one that a page cannot hold.
    const record = { ...mine, id: 'zzzzzzzz' };
    for (const bad of [
      { added: { other123: record } },
      { added: { zzzzzzzz: { ...record, settings: { goods: '' } } } },
      { added: { zzzzzzzz: { ...record, kind: 'constructor' } } },
      { removed: 'all' },
    ])
      await expect(applyChange(w.ctx, site, bad)).rejects.toThrow();
    expect(await draftPlacements(w.ctx, site.row.id)).toHaveLength(1);
    // What an older release wrote beside the address is no change of it.
    await w.ctx.store.db.run(sql`UPDATE placements SET pitch = json_set(pitch, '$.former', 1)`);
    const before = await now();
    const gone = before && changeBetween({ [p.id]: before }, {});
    await applyChange(w.ctx, site, gone);
    expect(await now()).toBeUndefined();
  });

  it('remembers what went live, and undoes it unless something later stands on it', async () => {
    const made = await w.addGoods('Trug', 4200, 3);
    await saveProduct(
      w.ctx,
      await w.site(),
      made.id,
      { fields: { price: 4500 }, counts: [{ variantId: made.variants[0]?.id, from: 3, to: 8 }] },
      'test',
    );
    await saveProduct(w.ctx, await w.site(), made.id, { fields: { price: 4700 } }, 'test');
    const { live } = await readSlip(w.ctx, await w.site());
    expect(live.map((l) => [l.what, l.from, l.to])).toEqual([
      ['Price', '£45.00', '£47.00'],
      ['Stock', '3', '8'],
      ['Price', '£42.00', '£45.00'],
      ['Added to the goods', undefined, undefined],
    ]);
    await expect(undoLive(w.ctx, await w.site(), live[2]?.id ?? 0, 'test')).rejects.toThrow(
      'changed again since',
    );
    await undoLive(w.ctx, await w.site(), live[0]?.id ?? 0, 'test');
    await undoLive(w.ctx, await w.site(), live[2]?.id ?? 0, 'test');
    await undoLive(w.ctx, await w.site(), live[1]?.id ?? 0, 'test');
    await expect(undoLive(w.ctx, await w.site(), live[1]?.id ?? 0, 'test')).rejects.toThrow('undone already');
    expect((await readSlip(w.ctx, await w.site())).live).toHaveLength(1);
  });
});

describe('publishing into a folder', () => {
  let site: Site;
  const hashes = async () =>
    Object.fromEntries(
      await Promise.all(
        (await readdir(dir, { recursive: true, withFileTypes: true }))
          .filter((e) => e.isFile())
          .map(
            async (e) =>
              [join(e.parentPath, e.name), sha256(await readFile(join(e.parentPath, e.name)))] as const,
          ),
      ),
    );
  beforeEach(async () => {
    for (const [name, body] of Object.entries(tinySite)) {
      await mkdir(join(dir, name, '..'), { recursive: true });
      await writeFile(join(dir, name), body);
    }
    const { id } = await bringIn(w.ctx, { how: 'folder', folder: dir }, settings);
    site = await loadSite(w.ctx, { id });
  });

  it('writes placements and shop pages, and gives the folder back byte for byte', async () => {
    const before = await hashes();
    await placeBuy(site, 'every');
    await publish(w.ctx, site, 'test');
    expect(await readFile(join(dir, 'about/index.html'), 'utf8')).toContain('<stall-cart');
    const cart = await readFile(join(dir, 'cart/index.html'), 'utf8');
    expect(cart).toContain('<stall-page part="cart"');
    expect(cart).toContain('<stall-cart');
    expect(cart).toContain('<footer>f</footer>');
    site = await loadSite(w.ctx, { id: site.row.id });
    for (const p of await draftPlacements(w.ctx, site.row.id)) await takeAway(w.ctx, site, p.id);
    await publish(w.ctx, site, 'test');
    expect(await hashes()).toEqual(before);
    expect(await readdir(dir)).toEqual(['about', 'index.html']);
  });

  it('never writes over what somebody else changed meanwhile', async () => {
    await placeBuy(site, 'every');
    await writeFile(join(dir, 'about/index.html'), '<p>changed by hand');
    const before = await hashes();
    await expect(publish(w.ctx, site, 'test')).rejects.toThrow('about/index.html changed on the live site');
    expect(await hashes()).toEqual(before);
    expect((await readSlip(w.ctx, site)).waiting).toHaveLength(1);
  });

  it('changes the menu of a site whose front page is a landing page without any', async () => {
    const bar =
      '<header><nav><ul><li><a href="a.html">Ash</a></li><li><a href="b.html">Beech</a></li></ul></nav></header>';
    const page = (body: string) => `<!doctype html><title>Trees</title><body>${body}</body>`;
    const { id } = await bring({
      'index.html': page('<main><h1>Trees</h1><a href="a.html">Come in</a></main>'),
      'a.html': page(`${bar}<main><h1>Ash</h1><p>It is the last to have leaves.</p></main>`),
      'b.html': page(`${bar}<main><h1>Beech</h1><p>It keeps its leaves in winter.</p></main>`),
    });
    const trees = await loadSite(w.ctx, { id });
    expect((await menuView(w.ctx, trees)).items.map((i) => i.label)).toEqual(['Ash', 'Beech']);
    await setMenuChanges(w.ctx, trees, [menuChange.parse({ do: 'add', label: 'Shop', to: '/shop/' })]);
    const after = await loadSite(w.ctx, { id });
    expect((await menuView(w.ctx, after)).items.map((i) => i.label)).toEqual(['Ash', 'Beech', 'Shop']);
    await expect(
      setMenuChanges(w.ctx, after, [menuChange.parse({ do: 'remove', item: ['Nothing'] })]),
    ).rejects.toThrow('on the page');
  });

  it('changes the menu with the rest, says so on the slip, and takes it back', async () => {
    const before = await hashes();
    await setMenuChanges(w.ctx, site, [menuChange.parse({ do: 'add', label: 'Shop', to: '/shop/' })]);
    await expect(
      setMenuChanges(w.ctx, site, [menuChange.parse({ do: 'remove', item: ['Nothing'] })]),
    ).rejects.toThrow('its menu has no item "Nothing"');
    site = await loadSite(w.ctx, { id: site.row.id });
    expect((await readSlip(w.ctx, site)).waiting).toMatchObject([{ id: 'menu', what: 'Menu: Shop added' }]);
    expect(await planOf(w.ctx, site)).toMatchObject({ version: 1, menu: [{ do: 'add', label: 'Shop' }] });
    expect((await publish(w.ctx, site, 'test')).lost).toMatchObject([
      { page: 'about/index.html', why: expect.stringContaining('no menu was found') },
    ]);
    expect(await readFile(join(dir, 'index.html'), 'utf8')).toContain('<li><a href="shop/">Shop</a></li>');
    site = await loadSite(w.ctx, { id: site.row.id });
    await setMenuChanges(w.ctx, site, []);
    await publish(w.ctx, await loadSite(w.ctx, { id: site.row.id }), 'test');
    expect(await hashes()).toEqual(before);
  });

  it('that was cut off is finished at the next start, and recorded once', async () => {
    await placeBuy(site, 'every');
    const previous = site.manifest;
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    // As kill -9 leaves it: the journal is written, some files are, halves of others lie about, nothing is recorded.
    const row = {
      id: 'cutoff0001',
      siteId: site.row.id,
      snapshotId: site.row.snapshotId,
      placements: await draftPlacements(w.ctx, site.row.id),
      menu: [],
      shop: null,
      manifest,
      changes: 1,
      pages: 2,
      by: 'test',
    };
    await writeInPlace(
      { folder: dir, journal: join(w.ctx.journals, site.row.id), read: w.ctx.blobs.get },
      previous,
      manifest,
      row,
    );
    await writeFile(join(dir, 'about/index.html'), tinySite['about/index.html'] ?? '');
    await writeFile(join(dir, 'index.html.0a1b2c3d.part'), 'half of a fi');
    await resumePublishings(w.ctx);
    expect((await readdir(dir)).filter((n) => n.endsWith('.part'))).toEqual([]);
    expect(await readFile(join(dir, 'about/index.html'), 'utf8')).toContain('<stall-cart');
    site = await loadSite(w.ctx, { id: site.row.id });
    expect(site.row.publicationId).toBe('cutoff0001');
    await resumePublishings(w.ctx);
    await expect(publish(w.ctx, site, 'test')).rejects.toThrow('Nothing waits');
  });
});

describe('a journal', () => {
  /** Two states of a folder, by name and content. */
  const state = (files: Record<string, string>) =>
    Object.fromEntries(Object.entries(files).map(([name, text]) => [name, sha256(Buffer.from(text))]));
  const before = { 'a.html': 'a', 'b.html': 'b', 'gone/old.html': 'old' };
  const after = { 'a.html': 'a, sold', 'b.html': 'b', 'cart/index.html': 'cart' };
  const texts = new Map(
    [...Object.values(before), ...Object.values(after)].map((text) => [
      sha256(Buffer.from(text)),
      Buffer.from(text),
    ]),
  );
  const place = (stop?: (read: number) => void): InPlace => {
    let n = 0;
    return {
      folder: join(dir, 'site'),
      journal: join(dir, 'journal'),
      read: async (hash) => {
        stop?.(++n);
        return texts.get(hash) ?? Buffer.alloc(0);
      },
    };
  };
  const lay = async (files: Record<string, string>) => {
    for (const [name, text] of Object.entries(files)) {
      await mkdir(join(dir, 'site', name, '..'), { recursive: true });
      await writeFile(join(dir, 'site', name), text);
    }
  };
  const found = async () =>
    Object.fromEntries(
      await Promise.all(
        (await readdir(join(dir, 'site'), { recursive: true, withFileTypes: true }))
          .filter((e) => e.isFile())
          .map(
            async (e) =>
              [
                join(e.parentPath, e.name).slice(dir.length + 6),
                await readFile(join(e.parentPath, e.name), 'utf8'),
              ] as const,
          ),
      ),
    );

  it('finishes or puts back, from wherever it was cut off', async () => {
    for (const way of ['finish', 'undo'] as const) {
      for (const written of [[], ['a.html'], ['a.html', 'cart/index.html']]) {
        await rm(dir, { recursive: true, force: true });
        await mkdir(dir, { recursive: true });
        await lay(before);
        await writeInPlace(place(), state(before), state(after));
        // Back to where only some of the files had been written.
        await rm(join(dir, 'site'), { recursive: true });
        await lay({
          ...before,
          ...Object.fromEntries(written.map((name) => [name, after[name as keyof typeof after]])),
        });
        await recover(place(), way);
        expect(await found(), `${way} after ${written.join()}`).toEqual(way === 'finish' ? after : before);
        await recover(place(), way);
        expect(await found()).toEqual(way === 'finish' ? after : before);
        await forgetJournal(join(dir, 'journal'));
        expect(await recover(place(), way)).toBeUndefined();
      }
    }
  });

  it('is not begun when making it safe fails: the folder is as it was', async () => {
    await lay(before);
    const full = place((n) => {
      if (n === 2) throw new Error('the disk is full');
    });
    await expect(writeInPlace(full, state(before), state(after))).rejects.toThrow('disk is full');
    expect(await found()).toEqual(before);
    expect(await recover(place(), 'finish')).toBeUndefined();
  });

  it('never writes over a file that somebody changed after the cut', async () => {
    await lay(before);
    await writeInPlace(place(), state(before), state(after));
    await writeFile(join(dir, 'site/a.html'), 'edited by hand');
    await expect(recover(place(), 'undo')).rejects.toThrow('a.html changed on the live site');
    expect((await found())['a.html']).toBe('edited by hand');
  });
});

it('shop pages never stand on a page the owner has', async () => {
  const { id } = await bring({ ...tinySite, 'cart/index.html': '<title>My ox cart</title><p>x' });
  const site = await loadSite(w.ctx, { id });
  await placeBuy(site, 'every');
  const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
  expect(Object.keys(manifest)).toContain('shop-cart/index.html');
  expect((await w.ctx.blobs.get(manifest['cart/index.html'] ?? '')).toString()).toContain('My ox cart');
});
