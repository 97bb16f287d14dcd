import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { changeBetween } from '../../core/change';
import type { Decision, LookPlan } from '../../core/look/plan';
import { publish, rollBack } from '../publishing/publish';
import { makeWorld, type World, zipFrom } from '../testing';
import { draftLook, foundLook, liveLook, lookFor, measuredLook } from './look';
import { answerDrift, changeLook, driftOf, keepMeasured, lookChange } from './look-changes';
import { lookView } from './look-view';
import { bringInNewer } from './newer';
import { readSlip } from './slip';
import { change } from './placing';
import { draftPlacements } from './site';
import { placeRow } from './testing';
import { undoWaiting } from './undo-waiting';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 3);
  await newer(styled('#1a4fb4', 4));
  await placeRow(w, await w.site());
});
afterEach(async () => w.end());

/** The tiny site with a look of its own. */
const styled = (button: string, corner: number, ground = '#ffffff') => {
  const page = (title: string, text: string) =>
    `<!doctype html><title>${title}</title><link rel="stylesheet" href="/site.css"><header><nav><ul><li><a href="/">Home</a><li><a href="/about/">About</a></ul></nav></header><main><h1>${title}</h1><p>${text} <a href="/">home</a></p><p>more</p><a class="btn" href="/">Buy</a></main><footer><p>Foot of the page</p></footer>`;
  return {
    'site.css': `body{background:${ground};color:#222;font-family:Georgia,serif} a{color:#0b57d0} .btn{display:inline-block;background:${button};color:#fff;padding:10px 24px;border-radius:${corner}px} footer{background:#1b1b1b;color:#eee}`,
    'index.html': page('Home', 'Each basket is woven by hand, from our own willow.'),
    'about/index.html': page('About', 'Two people in a shed, all the year round.'),
  };
};
const newer = async (files: Record<string, string>) =>
  bringInNewer(w.ctx, await w.site(), { how: 'zip', fileName: 'n.zip', bytes: zipFrom(files) });
const decide = async (before: LookPlan, after: LookPlan) =>
  changeLook(w.ctx, await w.site(), changeBetween<Decision>(before, after));
const draft = async (token: string) => (await draftLook(w.ctx, await w.site())).tokens[token];
const live = async (token: string) => (await liveLook(w.ctx, await w.site())).tokens[token];
const lines = async () =>
  (await readSlip(w.ctx, await w.site())).waiting.filter((l) => l.where === 'Look').map((l) => l.what);

describe('the look of a site', () => {
  it('waits on the slip in words, is undone by lines, published, and gone back from', async () => {
    const first = await publish(w.ctx, await w.site(), 'test');
    expect([await draft('accent'), await live('accent'), await lines()]).toEqual(['#1a4fb4', '#1a4fb4', []]);
    await decide({}, { 'tie:accent': { free: '#7a1f3d' }, 'tie:radius': { free: '12' } });
    expect(await lines()).toEqual(['Button: #7A1F3D', 'Button corners: 12 px']);
    expect([await draft('accent'), await live('accent')]).toEqual(['#7a1f3d', '#1a4fb4']);
    // The draft's own pages say whose they are; nobody else is shown what is not live.
    const site = await w.site();
    expect((await lookFor(w.ctx, site, site.row.draftKey)).tokens.accent).toBe('#7a1f3d');
    expect((await lookFor(w.ctx, site, 'another')).tokens.accent).toBe('#1a4fb4');
    await undoWaiting(w.ctx, site, 'look:tie:radius');
    expect([await draft('radius'), await lines()]).toEqual(['4', ['Button: #7A1F3D']]);
    await publish(w.ctx, await w.site(), 'test');
    expect([await live('accent'), await lines()]).toEqual(['#7a1f3d', []]);
    await rollBack(w.ctx, await w.site(), first.id, 'test');
    expect([await live('accent'), await draft('accent'), await lines()]).toEqual(['#1a4fb4', '#1a4fb4', []]);
  });

  it('takes back what was published when its decision goes, and refuses what another window changed', async () => {
    await decide({}, { 'tie:accent': { free: '#7a1f3d' } });
    await publish(w.ctx, await w.site(), 'test');
    await decide({ 'tie:accent': { free: '#7a1f3d' } }, {});
    expect(await lines()).toEqual(['Button: #1A4FB4, as found']);
    await undoWaiting(w.ctx, await w.site(), 'look:tie:accent');
    expect([await draft('accent'), await lines()]).toEqual(['#7a1f3d', []]);
    await expect(
      decide({ 'tie:accent': { free: '#000000' } }, { 'tie:accent': { free: '#111111' } }),
    ).rejects.toThrow('another window');
    const parsed = lookChange.safeParse({ added: { 'tie:accent': { free: 'red;}' }, 'shape:nothing': 1 } });
    expect(parsed.success).toBe(false);
  });

  it('goes on as it was when the site changes: told value by value, followed or kept, and nothing else is told', async () => {
    await publish(w.ctx, await w.site(), 'test');
    await newer({
      ...styled('#0b6e3b', 9),
      'about/index.html': `${styled('#0b6e3b', 9)['about/index.html']}<p>one more</p>`,
    });
    expect([await draft('accent'), await draft('radius')]).toEqual(['#1a4fb4', '4']);
    const drift = await driftOf(w.ctx, await w.site());
    expect(drift.map((d) => [d.source, d.was, d.is])).toEqual([
      ['button', '#1a4fb4', '#0b6e3b'],
      ['button-corner', '4', '9'],
    ]);
    expect(drift[0]?.pairs.map((p) => p.pair)).toContain('button');
    await answerDrift(w.ctx, await w.site(), { do: 'follow', sources: ['button'] });
    expect([await draft('accent'), await draft('radius')]).toEqual(['#0b6e3b', '4']);
    expect((await driftOf(w.ctx, await w.site())).map((d) => d.source)).toEqual(['button-corner']);
    expect(await lines()).toEqual(['Buttons: held at #0B6E3B']);
    await answerDrift(w.ctx, await w.site(), { do: 'keep', sources: 'all' });
    expect([await draft('accent'), await draft('radius')]).toEqual(['#0b6e3b', '4']);
    expect(await driftOf(w.ctx, await w.site())).toEqual([]);
    await expect(answerDrift(w.ctx, await w.site(), { do: 'follow', sources: 'all' })).rejects.toThrow(
      'already',
    );
    // Words alone change nothing of the look: nothing is told.
    await newer({
      ...styled('#0b6e3b', 9),
      'index.html': styled('#0b6e3b', 9)['index.html'].replace('willow', 'willow and ash'),
    });
    expect(await driftOf(w.ctx, await w.site())).toEqual([]);
  });

  it('follows all in one press, and a version that is taken back takes its drift with it', async () => {
    await publish(w.ctx, await w.site(), 'test');
    await newer(styled('#0b6e3b', 9, '#fff8ec'));
    expect((await driftOf(w.ctx, await w.site())).length).toBeGreaterThan(2);
    await undoWaiting(w.ctx, await w.site(), 'newer');
    expect([await driftOf(w.ctx, await w.site()), await draft('accent'), (await w.site()).row.look]).toEqual([
      [],
      '#1a4fb4',
      null,
    ]);
    await newer(styled('#0b6e3b', 9, '#fff8ec'));
    await answerDrift(w.ctx, await w.site(), { do: 'follow', sources: 'all' });
    expect([await draft('accent'), await draft('ground'), await draft('radius')]).toEqual([
      '#0b6e3b',
      '#fff8ec',
      '9',
    ]);
    expect((await w.site()).row.look).toBeNull();
    expect(await lines()).toHaveLength(1);
    await publish(w.ctx, await w.site(), 'test');
    expect([await live('accent'), await lines()]).toEqual(['#0b6e3b', []]);
  });

  it('says how long own CSS may be', () => {
    const long = `.stall-card{color:red}${' '.repeat(20_000)}`;
    const told = lookChange.safeParse({ added: { css: long }, removed: {}, updated: {} });
    expect(told.error?.issues[0]?.message).toBe(
      'Your own CSS has 20,022 characters; at most 20,000 characters are kept. Shorten it.',
    );
  });

  it('takes what a browser measured in place of what style sheets say, tells what that changes, and keeps it as it was on wish', async () => {
    const site = await w.site();
    const computed = await foundLook(w.ctx, site);
    await publish(w.ctx, site, 'test');
    const measured = {
      ...computed,
      by: 'measured' as const,
      sources: { ...computed.sources, 'button-corner': '6' },
    };
    const { snapshotId } = site.row;
    await expect(
      keepMeasured(w.ctx, await w.site(), { snapshot: 'another', found: measured }),
    ).rejects.toThrow('was read again while its pages were measured');
    expect(await measuredLook(w.ctx, snapshotId)).toBeUndefined();
    await keepMeasured(w.ctx, await w.site(), { snapshot: snapshotId, found: measured });
    expect((await measuredLook(w.ctx, site.row.snapshotId))?.by).toBe('measured');
    expect([await draft('radius'), await live('radius')]).toEqual(['6', '4']);
    expect((await lines())[0]).toContain('As your pages show it now: Button corners 6 px');
    await undoWaiting(w.ctx, await w.site(), 'look:reread');
    expect(await draft('radius')).toBe('4');
    for (const found of [{ by: 'measured', colours: 'x' }, computed])
      await expect(keepMeasured(w.ctx, await w.site(), { snapshot: snapshotId, found })).rejects.toThrow(
        'measured anew',
      );
  });

  it('says which widgets have a shape of their own, where they stand and what it is', async () => {
    expect((await lookView(w.ctx, await w.site())).departures).toEqual([]);
    const site = await w.site();
    const [row] = await draftPlacements(w.ctx, site.row.id);
    await change(w.ctx, site, row?.id ?? '', {
      settings: { ...row?.settings, cards: 'ticket', picture: '1-1' },
    });
    const [departs, ...others] = (await lookView(w.ctx, await w.site())).departures;
    expect(others).toEqual([]);
    expect(departs).toMatchObject({
      page: 'about/index.html',
      own: [{ name: 'cards', value: 'ticket' }, { name: 'picture' }],
    });
    expect(departs?.what).toContain('Product row');
  });

  it('is shown with pages to measure, and knows the ground of the footer', async () => {
    const view = await lookView(w.ctx, await w.site());
    expect(view.pages.map((p) => p.address)).toEqual(['/', '/about/']);
    expect(view.found.by).toBe('computed');
    expect((await draftLook(w.ctx, await w.site())).grounds.map((g) => g.colour)).toContain('#1b1b1b');
  });
});
