import { execFile, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { cp, mkdir, mkdtemp, readdir, readFile, readlink, rm, symlink, writeFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openStore } from '../src/data/database';
import { afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';

/** The built program, as bin/stall runs it: bin/test builds before it tests. */
const program = 'dist/cli/main.js';
const stall = (...args: string[]): Promise<{ status: number; out: string; err: string }> =>
  new Promise((done) =>
    execFile(process.execPath, [program, ...args], { maxBuffer: 64e6 }, (error, out, err) =>
      done({ status: typeof error?.code === 'number' ? error.code : 0, out, err }),
    ),
  );
const json = async (...args: string[]) => JSON.parse((await stall(...args, '--json')).out);

let dir: string;
beforeAll(() => {
  if (!existsSync(program)) throw new Error('bin/stall is not built: node tools/build.mjs');
});
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'stall-cli-'));
});
afterEach(() => rm(dir, { recursive: true, force: true }));

const hashes = async (folder: string) =>
  Object.fromEntries(
    (await readdir(folder, { recursive: true, withFileTypes: true }))
      .filter((e) => e.isFile())
      .map((e) => join(e.parentPath, e.name))
      .sort()
      .map((f) => [f.slice(folder.length), createHash('sha256').update(readFileSync(f)).digest('hex')]),
  );
describe('new-password', () => {
  it('says where there is no data, and who is not known', async () => {
    const nowhere = await stall('new-password', 'jo@kiln.example', '--data', dir);
    expect(nowhere).toMatchObject({ status: 3, out: '' });
    expect(nowhere.err).toContain('--data DIR');
    await writeFile(join(dir, 'stall.db'), '');
    const nobody = await stall('new-password', 'jo@kiln.example', '--data', dir);
    expect(nobody.status).toBe(3);
    expect(nobody.err).toContain('jo@kiln.example');
  });
});

describe('backup, verify and restore', () => {
  it('say what they need, what they made, and what they found', async () => {
    const data = join(dir, 'data');
    await mkdir(data);
    await writeFile(join(data, 'secrets.json'), '{"auth":"x"}');
    const phrase = join(dir, 'phrase.txt');
    await writeFile(phrase, 'seven lamps in a row\n');
    const file = join(dir, 'a.backup');
    expect(await stall('backup', file, '--data', data, '--phrase-file', phrase)).toMatchObject({ status: 3 });
    const store = await openStore(`file:${join(data, 'stall.db')}`, 'src/data/migrations');
    store.close();
    const bare = await stall('backup', file, '--data', data);
    expect(bare.status).toBe(2);
    expect(bare.err).toContain('--without-secrets');
    const made = await stall('backup', file, '--data', data, '--phrase-file', phrase);
    expect(made.status).toBe(0);
    expect(made.out).toContain('with the secrets, sealed');
    expect(await json('verify', file, '--phrase-file', phrase)).toMatchObject({ opened: true });
    // Without the phrase it is whole, and its secrets need the owner's word.
    expect((await stall('verify', file)).status).toBe(1);
    expect((await stall('restore', file, '--data', data, '--phrase-file', phrase)).err).toContain(
      'not empty',
    );
    const again = join(dir, 'again');
    expect((await stall('restore', file, '--data', again, '--phrase-file', phrase)).status).toBe(0);
    expect((await readdir(again)).sort()).toEqual(['secrets.json', 'stall.db']);
  });
});

describe('read of an address', () => {
  it('reads the site that is there, and says where none is', async () => {
    const pages: Record<string, string> = {
      '/': '<title>Kiln</title><h1>Kiln</h1><a href="/pots">Pots</a>',
      '/pots': '<title>Pots - Kiln</title><h1>Pots</h1><a href="/">Kiln</a>',
    };
    const server = createServer((req, res) => {
      const page = pages[req.url ?? ''];
      res.writeHead(page ? 200 : 404, { 'content-type': 'text/html' }).end(page);
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    const { pages: found } = (await json('read', address)) as { pages: { path: string; address: string }[] };
    server.close();
    server.closeAllConnections();
    expect(found.map((p) => [p.path, p.address])).toEqual([
      ['index.html', '/'],
      ['pots.html', '/pots'],
    ]);
    const gone = await stall('read', address);
    expect(gone).toMatchObject({ status: 3, out: '' });
    expect(gone.err).toContain('No server answers');
  });
});

const site = 'demo/withybed';

async function makePlan(more: Record<string, unknown> = {}): Promise<string> {
  const pitches = (await json('pitches', site, '/')) as { label: string; pitch: unknown }[];
  const at = (label: string) => {
    const found = pitches.find((p) => p.label.startsWith(label));
    if (!found) throw new Error(label);
    return { pitch: found.pitch, pitchLabel: found.label };
  };
  const file = join(dir, 'plan.json');
  await writeFile(
    file,
    JSON.stringify({
      version: 1,
      shop: { url: 'https://shop.example/withybed', goods: { rod: 'Rod basket' } },
      placements: [
        {
          id: 'cart0001',
          kind: 'cart',
          settings: {},
          ...at('at the end of the header'),
          reach: { to: 'every' },
          order: 1,
        },
        {
          id: 'buy00001',
          kind: 'buy',
          settings: { goods: 'rod' },
          ...at('after “Forty-one'),
          reach: { to: 'page', page: 'index.html' },
          order: 2,
        },
      ],
      menu: [{ do: 'add', label: 'Shop', to: '/shop/', at: { after: 'Our baskets' } }],
      shopPages: ['cart', 'checkout', 'thanks', 'failed'],
      ...more,
    }),
  );
  return file;
}

describe('bin/stall check', () => {
  it('tells what loses the sale, at its place, and ends with 1', async () => {
    const plan = await makePlan({ menu: [] });
    const copy = join(dir, 'site');
    await cp(site, copy, { recursive: true });
    const page = join(copy, 'workshops', 'index.html');
    await writeFile(
      page,
      (await readFile(page, 'utf8')).replace(
        '</main>',
        '<p>See <a href="/no-such-page/">the barn</a> <a href="/nor-this/">the \x1b]0;mine\x07\u202eloft</a></p></main>',
      ),
    );
    const { findings } = (await json('check', copy, '--plan', plan)) as {
      findings: { rule: string; place: { page?: string } }[];
    };
    expect(findings.find((f) => f.rule === 'dead-link')?.place.page).toBe('workshops/index.html');
    const { status, out } = await stall('check', copy, '--plan', plan);
    expect(out).toContain('“the barn” leads nowhere');
    // A page's own text tells the terminal nothing.
    expect(out).toContain('loft');
    expect(/[\u001b\u0007\u202e]/.test(out)).toBe(false);
    expect(status).toBe(findings.some((f) => 'weight' in f && f.weight === 'sale') ? 1 : 0);
    expect((await stall('check', '--rules')).out).toBe(`${readFileSync('docs/checks.md', 'utf8')}\n`);
  });
});

describe('bin/stall', () => {
  it('places a plan, once or twice, and takes it out from the files alone, byte for byte', async () => {
    const plan = await makePlan();
    const [one, two, three] = ['one', 'two', 'three'].map((n) => join(dir, n)) as [string, string, string];
    expect(await stall('place', site, '--plan', plan, '--out', one)).toMatchObject({
      status: 0,
      out: expect.stringContaining('13 pages written, 14 placements set, 4 pages built for the shop'),
    });
    expect(readFileSync(join(one, 'journal/index.html'), 'utf8')).toContain(
      '<li><a href="../shop/">Shop</a></li>',
    );
    expect(readFileSync(join(one, 'cart/index.html'), 'utf8')).toMatch(
      /<stall-cart[\s\S]*<stall-page part="cart"/,
    );
    expect((await stall('place', one, '--plan', plan, '--out', two)).status).toBe(0);
    expect(await hashes(two)).toEqual(await hashes(one));
    expect(await stall('strip', one, '--out', three)).toMatchObject({
      status: 0,
      out: expect.stringContaining('4 pages of the shop taken away'),
    });
    expect(await hashes(three)).toEqual(await hashes(site));
  });

  it('copies links that stay inside the site, wherever they were written to lead, and none that lead out', async () => {
    const [linked, out, back] = ['linked', 'out', 'back'].map((n) => join(dir, n)) as [
      string,
      string,
      string,
    ];
    await cp(site, linked, { recursive: true });
    await symlink('index.html', join(linked, 'home.html'));
    await symlink(join(linked, 'journal'), join(linked, 'diary'));
    await symlink('/etc/hosts', join(linked, 'hosts.html'));
    expect((await stall('place', linked, '--plan', await makePlan(), '--out', out)).status).toBe(0);
    expect([await readlink(join(out, 'home.html')), await readlink(join(out, 'diary'))]).toEqual([
      'index.html',
      'journal',
    ]);
    expect(readFileSync(join(out, 'home.html'), 'utf8')).toContain('<stall-cart');
    expect(existsSync(join(out, 'hosts.html'))).toBe(false);
    expect((await stall('strip', out, '--out', back)).status).toBe(0);
    expect(await hashes(back)).toEqual(await hashes(site));
    expect(await readlink(join(back, 'home.html'))).toBe('index.html');
  });

  it('reads a site, in words and as JSON', async () => {
    const { status, out } = await stall('read', site);
    expect(status).toBe(0);
    expect(out).toContain('Withybed Weavers: 9 pages');
    expect(await json('read', site)).toMatchObject({
      name: 'Withybed Weavers',
      chrome: [{ pages: 5 }, { pages: 4 }],
      moves: { how: 'reloads' },
    });
  });

  it('reads a site whose style sheet would take for ever, without it', async () => {
    const nest = `${'<div class="a">'.repeat(120)}<div class="b"><p>x</p><p>y</p></div>${'</div>'.repeat(120)}`;
    for (const name of ['index', 'two', 'three'])
      await writeFile(
        join(dir, `${name}.html`),
        `<link rel=stylesheet href=a.css><div class="bar"><a href="index.html">Home</a> <a href="two.html">Two</a> <a href="three.html">Three</a></div><h1>${name}</h1><p>${`${name} alone `.repeat(30)}</p>${nest}`,
      );
    // Each of fourteen may be any of 120 that it stands in; and the first is none of them.
    await writeFile(join(dir, 'a.css'), `.none ${'.a '.repeat(14)}.b{display:none}`);
    const { status, out } = await stall('read', dir);
    expect({ status, out }).toMatchObject({ status: 0, out: expect.stringContaining('three.html') });
  }, 40_000);

  it('tells why a region is where it is said to be, in figures of the page', async () => {
    const { out } = await stall('read', site, '--why');
    expect(out).toMatch(
      / {4}header \d+%, by meaning: header:0, says header.*; \d+ letters, \d+% on other pages too/,
    );
    expect(out).toMatch(
      / {4}menu \d+%, by [a-z]+: .*; \d+ letters, .* links to \d+ pages\n {6} +\d+\.\d\d {2}/,
    );
    const { why, pages } = await json('read', site, '--why');
    const [page] = pages;
    // What is told is what was found: no second opinion.
    expect(why[page.path].map((r: { region: string }) => r.region).sort()).toEqual(
      page.regions.map((r: { region: string }) => r.region).sort(),
    );
    expect(await json('read', site)).not.toHaveProperty('why');
  });

  it('finds placements again in a newer version, and writes the plan anew', async () => {
    const plan = await makePlan();
    await cp(site, join(dir, 'new'), { recursive: true });
    const index = join(dir, 'new/index.html');
    await writeFile(
      index,
      readFileSync(index, 'utf8')
        .replace('<h1>', '<p>Closed in the first week of January.</p>\n<h1>')
        .replace('Forty-one kinds', 'Forty-two kinds'),
    );
    const { status, out } = await stall(
      'reanchor',
      site,
      join(dir, 'new'),
      '--plan',
      plan,
      '--write',
      join(dir, 'again.json'),
    );
    expect({ status, out }).toMatchObject({
      status: 0,
      out: expect.stringContaining('10 placements found again, 0 for the owner'),
    });
    expect(
      (
        await stall(
          'place',
          join(dir, 'new'),
          '--plan',
          join(dir, 'again.json'),
          '--out',
          join(dir, 'placed'),
        )
      ).status,
    ).toBe(0);
    await writeFile(index, '<html><body><p>All is new here, and nothing is as it was.</p></body></html>');
    expect(await stall('reanchor', site, join(dir, 'new'), '--plan', plan)).toMatchObject({
      status: 1,
      err: expect.stringContaining('buy00001  index.html: lost'),
    });
  });

  it('shows and changes menus', async () => {
    expect((await stall('menu', site)).out).toContain('The withy bed  the-withy-bed/index.html');
    const out = join(dir, 'menu');
    expect(
      await stall('menu', site, '--move', 'Journal', '--under', 'The withy bed', '--out', out),
    ).toMatchObject({ status: 0, out: 'The menu was changed on 9 pages.\n' });
    expect(await json('menu', out)).toMatchObject([
      { menu: expect.arrayContaining([expect.stringMatching(/^ {2}Journal/)]) },
    ]);
    expect((await stall('strip', out, '--out', join(dir, 'back'))).status).toBe(0);
    expect(await hashes(join(dir, 'back'))).toEqual(await hashes(site));
  });

  it('builds shop pages from a page that is named', async () => {
    const plan = await makePlan({ shopPages: ['cart'] });
    expect(
      await json('shop-pages', site, '--plan', plan, '--model', '/workshops/', '--out', join(dir, 'out')),
    ).toEqual([{ path: 'cart/index.html', part: 'cart', model: 'workshops/index.html' }]);
  });

  it('says what it does not understand, and what it refuses, with what to do', async () => {
    const plan = await makePlan();
    const cases: [string[], number, string][] = [
      [[], 2, ''],
      [['paint'], 2, 'there is no command "paint"'],
      [['read'], 2, 'DIR is missing'],
      [['read', site, '--colour'], 2, "Unknown option '--colour'"],
      [['menu', site, '--remove', 'X', '--add', 'Y'], 2, 'choose one of'],
      [['read', '/no/such/place'], 3, 'There is nothing at /no/such/place'],
      [['pitches', site, 'nothing.html'], 3, 'has no page "nothing.html"'],
      [['place', site, '--plan', plan], 3, 'Say where the pages go'],
      [['place', site, '--plan', plan, '--out', '.'], 3, 'is not empty'],
    ];
    for (const [args, status, says] of cases) {
      const got = await stall(...args);
      expect([args.join(' '), got.status]).toEqual([args.join(' '), status]);
      expect(got.err).toContain(says);
    }
    await writeFile(join(dir, 'bad.json'), '{"version": 1,\n "shop": }');
    expect(
      (await stall('place', site, '--plan', join(dir, 'bad.json'), '--out', join(dir, 'x'))).err,
    ).toContain('bad.json, line 2: this is not JSON');
    await mkdir(join(dir, 'empty'));
    await writeFile(join(dir, 'empty/readme.txt'), 'x');
    expect((await stall('read', join(dir, 'empty'))).err).toContain('No page was found');
    expect(await stall('--help')).toMatchObject({ status: 0, out: expect.stringContaining('reanchor') });
    expect(await stall('strip', '--help')).toMatchObject({
      status: 0,
      out: expect.stringContaining('byte for byte'),
    });
  });

  it('tells of half marks by file and line, leaves them alone, and goes on', async () => {
    await mkdir(join(dir, 'half'));
    await writeFile(
      join(dir, 'half/index.html'),
      '<p>a</p>\n<!--stall abcd1234--><b>cut</b>\n<!--stall dcba4321--><i>whole</i><!--/stall dcba4321-->',
    );
    const { status, err } = await stall('strip', join(dir, 'half'), '--in-place');
    expect(status).toBe(1);
    expect(err).toContain('index.html, line 2: the mark of abcd1234 is opened and never closed');
    expect(await readFile(join(dir, 'half/index.html'), 'utf8')).toBe(
      '<p>a</p>\n<!--stall abcd1234--><b>cut</b>\n',
    );
  });

  it('killed while it writes in place, finishes or puts back', async () => {
    const plan = await makePlan({ shopPages: [] });
    const folder = join(dir, 'site');
    const journal = join(dir, '.site.stall-journal');
    for (const way of ['undo', 'finish']) {
      await rm(folder, { recursive: true, force: true });
      await cp(site, folder, { recursive: true });
      for (let n = 0; n < 150; n++)
        await cp(join(folder, 'workshops/index.html'), join(folder, `w${n}.html`));
      const before = await hashes(folder);
      const child = spawn(process.execPath, [program, 'place', folder, '--plan', plan, '--in-place']);
      await new Promise<void>((seen) => {
        const look = setInterval(() => {
          if (existsSync(join(journal, 'journal.json')) || child.exitCode !== null) {
            clearInterval(look);
            child.kill('SIGKILL');
            seen();
          }
        }, 2);
      });
      expect((await stall('place', folder, '--plan', plan, '--in-place')).err).toContain(
        'was cut off and is not finished',
      );
      expect(await stall('recover', folder, ...(way === 'undo' ? ['--undo'] : []))).toMatchObject({
        status: 0,
      });
      const now = await hashes(folder);
      if (way === 'undo') expect(now).toEqual(before);
      else expect(readFileSync(join(folder, 'w149.html'), 'utf8')).toContain('cart0001');
      expect(existsSync(journal)).toBe(false);
      expect((await stall('strip', folder, '--in-place')).status).toBe(0);
      expect(await hashes(folder)).toEqual(before);
    }
  }, 120_000);

  it('works out a basket: the same function as the checkout, step by step', async () => {
    const shown = await stall('price', 'docs/examples/basket.json');
    expect([shown.status, shown.out.split('\n').at(-2)?.replace(/\s+/g, ' ')]).toEqual([0, 'To pay £110.00']);
    expect(await json('price', 'docs/examples/basket.json')).toMatchObject({
      total: 11_000,
      taxes: [{ percent: 20, tax: 1833, taxable: 9167 }],
      codes: [{ status: 'applied' }],
    });
    const file = join(dir, 'basket.json');
    await writeFile(file, JSON.stringify({ version: 1, currency: 'GBP', lines: [{ name: 'x', price: -1 }] }));
    const wrong = await stall('price', file);
    expect([wrong.status, wrong.err]).toEqual([2, expect.stringContaining('lines.0.price')]);
    expect(JSON.parse(await readFile('docs/basket.schema.json', 'utf8'))).toEqual(
      await json('price', '--schema'),
    );
  });
});
