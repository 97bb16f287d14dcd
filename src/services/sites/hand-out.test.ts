import { visit } from '../outside/visit';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../testing';
import { forget, handedOut, hasArrived, lookFor, lookForAll } from './hand-out';
import { listPitches } from '../../core/site/pitch';
import type { Spelling } from '../../core/placement/spelling';
import { fragmentHtml } from '../storefront/embedded';
import { benchView } from '../publishing/bench';
import { place } from './placing';
import { computeManifest } from '../publishing/publish';
import { loadPage } from './site';
import { draftState } from './state';
let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

describe('a widget that was handed out', () => {
  it('is looked for where it was pasted, with its script, in each spelling', async () => {
    await w.addGoods('Trug', 4200, 3);
    let served = '';
    const server = createServer(
      (_, res) =>
        void res.writeHead(200, { 'content-type': 'text/html' }).end(`<title>t</title><p>${served}`),
    );
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    const site = await w.site();
    const ask = (spelling: Spelling) =>
      hasArrived(w.ctx, site, { url, placement: 'abcdefgh12', kind: 'buy', spelling });
    const script = `<script async src="${w.ctx.addresses.shop}/stall.js"></script>`;
    try {
      expect(await ask('element')).toMatchObject({
        found: false,
        message: expect.stringContaining('not on that page'),
      });
      served = '<stall-buy goods="trug" placement="abcdefgh12"></stall-buy>';
      expect(await ask('element')).toMatchObject({
        found: false,
        message: expect.stringContaining('Paste the script'),
      });
      served += script;
      expect(await ask('element')).toMatchObject({ found: true });
      served = `[stall buy goods=\u201ctrug\u201d placement=abcdefgh12] ${script}`;
      expect(await ask('shortcode')).toMatchObject({ found: true });
      served = `[stall buy placement=abcdefgh12] ${script}`;
      expect(await ask('shortcode')).toMatchObject({
        found: false,
        message: expect.stringContaining('Choose the product'),
      });
      served = `<iframe src="${w.ctx.addresses.shop}/${site.row.slug}/frame/buy?goods=trug"></iframe>`;
      expect(await ask('frame')).toMatchObject({ found: true });
      served = `&lt;stall-buy goods="trug" placement="abcdefgh12"&gt;&lt;/stall-buy&gt; ${script}`;
      expect(await ask('element')).toMatchObject({
        found: false,
        message: expect.stringContaining('stands there as text, in line 1'),
      });
      served = '<div data-stall-fragment="buy"></div>';
      expect(await ask('ssi')).toMatchObject({ found: true });
      served = `<a href="${w.ctx.addresses.shop}/${site.row.slug}/goods/trug?via=abcdefgh12">x</a>`;
      expect(await ask('link')).toMatchObject({ found: true });
    } finally {
      server.close();
    }
    await expect(ask('element')).rejects.toThrow(/No server answers|does not answer/);
    // A name that nobody has (RFC 6761, 6.4).
    await expect(visit(w.ctx.reach, 'http://no-such-yard.invalid/')).rejects.toThrow('Nobody knows the name');
  });

  it('is remembered with what was seen, looked for again with all others, and forgotten', async () => {
    let served = 'nothing yet';
    const server = createServer(
      (_, res) => void res.writeHead(200, { 'content-type': 'text/html' }).end(`<p>${served}`),
    );
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    const site = await w.site();
    const one = { url, placement: 'abcdefgh12', kind: 'row', spelling: 'frame' } as const;
    expect(await lookFor(w.ctx, site, one)).toMatchObject({ found: false });
    await lookFor(w.ctx, site, { ...one, placement: 'abcdefgh34', url: 'http://127.0.0.1:9/' });
    const told = async (all = handedOut(w.ctx, site)) =>
      (await all).map((h) => [h.placement, h.found]).sort();
    expect(await told()).toEqual([
      ['abcdefgh12', false],
      ['abcdefgh34', false],
    ]);
    served = `<iframe src="${w.ctx.addresses.shop}/${site.row.slug}/frame/row"></iframe>`;
    expect(await told(lookForAll(w.ctx, site))).toEqual([
      ['abcdefgh12', true],
      ['abcdefgh34', false],
    ]);
    server.close();
    server.closeAllConnections();
    // A host that is down is an answer like any other: nothing of what was handed out is lost from the list.
    expect(await told(lookForAll(w.ctx, site))).toEqual([
      ['abcdefgh12', false],
      ['abcdefgh34', false],
    ]);
    await forget(w.ctx, site, one);
    expect(await told()).toEqual([['abcdefgh34', false]]);
  });

  it('has its own picture by the whole address in frames, includes and code for any page', async () => {
    await w.addGoods('Trug', 4200, 3);
    const site = await w.site();
    const pitch = listPitches(await loadPage(w.ctx, site, 'about/index.html'))[0];
    if (!pitch) throw new Error('no pitch');
    await place(w.ctx, site, {
      kind: 'buy',
      settings: { goods: 'trug', picture: '../img/buy.png' },
      pitch: pitch.address,
      pitchLabel: pitch.label,
      reach: { to: 'page', page: 'about/index.html' },
    });
    const [placed] = (await benchView(w.ctx, await w.site(), 'about/index.html')).placements;
    const whole = 'https://tiny.example/img/buy.png';
    expect(placed?.written.element).toContain(`picture="${whole}"`);
    for (const spelling of ['frame', 'ssi', 'esi', 'shortcode'] as const)
      expect(placed?.written[spelling].replaceAll(encodeURIComponent(whole), whole)).toContain(whole);
    // On the owner's own page it stays as the page names it.
    const { manifest } = await computeManifest(w.ctx, site, await draftState(w.ctx, site));
    expect((await w.ctx.blobs.get(manifest['about/index.html'] ?? '')).toString()).toContain(
      'picture="../img/buy.png"',
    );
    const drawn = await fragmentHtml(w.ctx, site, {
      kind: 'buy',
      via: 'abcdefgh12',
      attributes: new Map([
        ['goods', 'trug'],
        ['picture', whole],
      ]),
    });
    expect(drawn).toContain(`<img src="${whole}" alt="Buy: Trug">`);
  });
});
