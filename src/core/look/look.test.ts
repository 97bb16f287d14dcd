import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { colourOver, contrast, faintest, readable, toHex } from './colour';
import { hueOf } from './found/naming';
import { groundsCss, look, lookCss, lookRules } from './look';
import { pairNames } from './pairs';
import { type Decision, readDecision } from './plan';
import { difference } from './remedy';
import { dressedBy, foundOn, PAGE } from './testing';
import { cleanValue, type TokenName, tokenNames, tokenOf } from './tokens';
import { dress, wardrobeOf } from './wardrobe';

const valuesOf = (d: ReturnType<typeof dressedBy>) =>
  Object.fromEntries(tokenNames.map((n) => [n, d.light.tokens[n].value])) as Record<TokenName, string>;

describe('colour', () => {
  it('has the contrast of WCAG 2.2', () => {
    // W3C, Understanding SC 1.4.3: #777777 on white is 4.47:1 (just fails), black on white 21:1.
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.478, 2);
    expect(contrast('#000', '#fff')).toBeCloseTo(21, 5);
    expect(toHex('rgb(0 0 0 / 10%)')).toBeUndefined();
    expect(toHex('oklch(62.8% 0.2577 29.23)')).toBe('#ff0000');
    expect(toHex('url(x)')).toBeUndefined();
    for (const broken of ['rgb(0 0 0 /', 'rgb(', 'hsl(1', 'color(', '#', 'rgba(1,2'])
      expect(toHex(broken), broken).toBeUndefined();
  });

  it('made readable is readable', () => {
    const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);
    fc.assert(
      fc.property(hex, hex, (ground, wish) => {
        expect(contrast(readable(ground, 4.5, wish), ground)).toBeGreaterThanOrEqual(4.5);
        const ink = readable(ground, 4.5);
        expect(contrast(faintest(ink, ground, 3), ground)).toBeGreaterThanOrEqual(3);
      }),
    );
  });

  it('seen through another is what lies between', () => {
    expect(colourOver('rgb(0 0 0 / 50%)', '#ffffff')).toBe('#808080');
    expect(colourOver('currentColor', '#ffffff', '#123456')).toBe('#123456');
    expect(colourOver('transparent', '#ffffff')).toBeUndefined();
    expect(colourOver('nonsense', '#ffffff')).toBeUndefined();
  });

  it('has the name that people give it', () => {
    const named: readonly [string, string][] = [
      ['#ffffff', 'white'],
      ['#f6eedc', 'cream'],
      ['#000000', 'black'],
      ['#888888', 'grey'],
      ['#79491b', 'brown'],
      ['#f2e2bc', 'sand'],
      ['#ff0000', 'red'],
      ['#ff8800', 'orange'],
      ['#ffdd00', 'yellow'],
      ['#3f5a2c', 'green'],
      ['#0f4c4f', 'teal'],
      ['#1f6fd1', 'blue'],
      ['#12204f', 'navy'],
      ['#7b2fbe', 'violet'],
    ];
    for (const [hex, hue] of named) expect(hueOf(hex), hex).toBe(hue);
  });
});

describe('a look', () => {
  it('of the demo site is what its maker wrote', () => {
    const css = readFileSync('demo/withybed/css/withybed.css', 'utf8');
    const found = foundOn(css, readFileSync('demo/withybed/index.html', 'utf8'));
    expect(found.sources).toMatchObject({
      ground: '#f6eedc',
      text: '#3a2a1c',
      link: '#79491b',
      button: '#79491b',
      'button-text': '#f6eedc',
      'button-corner': '2',
      'button-pad-x': '28',
      width: '1120',
      'heading-weight': '400',
      root: '16',
    });
    expect(found.sources['heading-face']).toContain('Sorts Mill Goudy');
    expect(found.fonts[0]?.face).toBe('Alegreya Sans');
    expect(found.colours.find((c) => c.value === '#79491b')?.sources).toEqual(['link', 'button', 'focus']);
  });

  it('of a page from before style sheets is what its attributes say', () => {
    const found = foundOn('', readFileSync('demo/sites/quillfeather/index.html', 'latin1'));
    expect(found.sources).toMatchObject({ ground: '#fffff0', text: '#222222', link: '#003399' });
  });

  it('follows a dark site, and knows what stands on a band', () => {
    const d = dressedBy(
      'body{background:#101418;color:#e8e8e8} footer{background:#f4f4f4;color:#222} footer a{color:#0a58ca} .btn{background:#ffcc00;color:#222;border-radius:999px;padding:8px 20px;display:inline-block}',
    );
    expect(valuesOf(d)).toMatchObject({
      ground: '#101418',
      accent: '#ffcc00',
      'accent-ink': '#222222',
      radius: '999',
    });
    expect(d.light.grounds).toHaveLength(1);
    expect(d.light.grounds[0]).toMatchObject({
      colour: '#f4f4f4',
      tokens: { ink: '#222222', link: '#0a58ca' },
    });
    for (const name of ['ink', 'link', 'muted', 'price', 'danger'] as const)
      expect(contrast(d.light.grounds[0]?.tokens[name] ?? '', '#f4f4f4'), name).toBeGreaterThanOrEqual(4.5);
  });

  it('has a second one for those who want it dark, where the site has', () => {
    const css =
      'body{background:#fff;color:#222} a{color:#0645ad} @media (prefers-color-scheme:dark){body{background:#111;color:#ddd} a{color:#8ab4f8}}';
    const { look: worn } = dressedBy(css);
    expect(worn.dark?.tokens).toMatchObject({ ground: '#111111', ink: '#dddddd', link: '#8ab4f8' });
    expect(groundsCss(worn).map(([colour]) => colour)).toContain('#111111');
    expect(lookRules(worn, '.stall')).toContain('@media(prefers-color-scheme:dark){.stall{');
    expect(dressedBy('body{background:#fff}').look.dark).toBeNull();
  });

  it('moves the site’s own colours as little as it can where they are hard to read, and never turns them black', () => {
    // White on this blue is 3.68 to 1; the site's links and grey text fail on white, too.
    const d = dressedBy(
      'body{background:#fff;color:#7d7d7d} a{color:#4a90d9} .btn{background:#3b82f6;color:#fff;padding:8px 20px;display:inline-block}',
    );
    const worn = valuesOf(d);
    expect(worn['accent-ink']).toBe('#ffffff');
    for (const [own, now] of [
      ['#3b82f6', worn.accent],
      ['#7d7d7d', worn.ink],
      ['#4a90d9', worn.link],
    ] as const) {
      expect(difference(own, now)).toBeGreaterThan(0);
      expect(difference(own, now)).toBeLessThan(12);
    }
    const button = d.light.proofs.find((p) => p.pair === 'button');
    expect(button).toMatchObject({
      passes: true,
      remedy: { token: 'accent', from: '#3b82f6', to: worn.accent },
    });
    expect(button?.asFound).toBeCloseTo(3.68, 2);
  });

  it('leaves a pair as the site has it where the owner says so, and goes on saying that it fails', () => {
    const css =
      'body{background:#fff;color:#222} .btn{background:#3b82f6;color:#fff;padding:8px 20px;display:inline-block}';
    const d = dressedBy(css, { 'as:button': 'site' });
    expect(valuesOf(d)).toMatchObject({ accent: '#3b82f6', 'accent-ink': '#ffffff' });
    const button = d.light.proofs.find((p) => p.pair === 'button');
    expect(button).toMatchObject({ passes: false, asSite: true });
    expect(button?.remedy?.to).toBe(valuesOf(dressedBy(css)).accent);
  });

  it('hangs by threads: they follow the site, can be tied elsewhere, set free, or held', () => {
    const css = (blue: string) =>
      `body{background:#fff;color:#222} h1,h2{color:#7a1f3d} .btn{background:${blue};color:#fff;padding:8px 20px;display:inline-block}`;
    const accent = (blue: string, plan: Record<string, Decision>) =>
      dressedBy(css(blue), plan).light.tokens.accent;
    expect(accent('#1a4fb4', {})).toMatchObject({ value: '#1a4fb4', by: 'thread', source: 'button' });
    expect(accent('#0b6e3b', {}).value).toBe('#0b6e3b');
    expect(accent('#1a4fb4', { 'tie:accent': { to: 'heading' } })).toMatchObject({
      value: '#7a1f3d',
      source: 'heading',
    });
    expect(accent('#1a4fb4', { 'tie:accent': { free: '#5b1e3f' } })).toMatchObject({
      value: '#5b1e3f',
      by: 'free',
    });
    expect(accent('#0b6e3b', { 'pin:button': '#1a4fb4' }).value).toBe('#1a4fb4');
    // What a thread was tied to is gone: the usual one takes its place, and it is said.
    expect(accent('#1a4fb4', { 'tie:accent': { to: 'deep' } })).toMatchObject({
      source: 'button',
      loose: 'deep',
    });
  });

  it('of the owner’s own does not turn the site’s colour under the pointer', () => {
    const css =
      '.btn{background:#3b82f6;color:#fff;padding:8px 20px;display:inline-block} .btn:hover{background:#1d4ed8}';
    expect(valuesOf(dressedBy(css)).over).toBe('#1d4ed8');
    const own = dressedBy(css, { 'tie:accent': { free: '#0f766e' } });
    expect(own.light.tokens.over.by).toBe('made');
    expect(difference(valuesOf(own).over, '#0f766e')).toBeLessThan(15);
  });

  it('is pressed as the site’s button is; where the site says nothing of it, as under the pointer', () => {
    const css =
      '.btn{background:#3b82f6;color:#fff;padding:8px 20px;display:inline-block} .btn:hover{background:#1d4ed8}';
    expect(valuesOf(dressedBy(css))).toMatchObject({ pressed: '#1d4ed8', 'pressed-ink': '#ffffff' });
    const told = dressedBy(`${css} .btn:active{background:#0b1f66;color:#ffee99}`);
    expect(valuesOf(told)).toMatchObject({ over: '#1d4ed8', pressed: '#0b1f66', 'pressed-ink': '#ffee99' });
    const faint = dressedBy(`${css} .btn:active{background:#0b1f66;color:#20307a}`).light;
    expect(faint.proofs.find((p) => p.pair === 'button-pressed')?.remedy).toBeDefined();
  });

  it('holds together whatever the sheets say and the owner decides: every pair passes or is told', () => {
    const colour = fc.constantFrom(
      '#fff',
      '#123',
      'red',
      'transparent',
      'var(--a)',
      'var(--none, #456)',
      'url(x.png) #eee',
      'linear-gradient(red, blue)',
      '}',
      'expression(1)',
      'inherit',
      '#777',
      'rgb(200 200 200 / 50%)',
    );
    const rule = fc.tuple(
      fc.constantFrom(
        'body',
        'h1,h2',
        'a',
        '.button',
        'button',
        ':root',
        '@media print',
        '.btn:hover',
        'a{',
        'main',
        'footer',
        'input',
      ),
      fc.constantFrom(
        'color',
        'background',
        'background-color',
        '--a',
        'font-family',
        'border-radius',
        'max-width',
        'padding',
        'box-shadow',
        'border',
      ),
      colour,
    );
    const token = fc.constantFrom(...tokenNames.filter((n) => tokenOf(n).kind === 'colour'));
    const free = fc.tuple(token, fc.constantFrom('#000000', '#ffffff', '#808080', '#ffee00'));
    fc.assert(
      fc.property(fc.array(rule, { maxLength: 12 }), fc.array(free, { maxLength: 4 }), (rules, frees) => {
        const plan = Object.fromEntries(frees.map(([name, value]) => [`tie:${name}`, { free: value }]));
        const d = dressedBy(rules.map(([s, p, v]) => `${s}{${p}:${v}}`).join('\n'), plan);
        expect(look.safeParse(d.look).success).toBe(true);
        expect(d.light.proofs.map((p) => p.pair)).toEqual([...pairNames]);
        for (const p of d.light.proofs) {
          const { of, on } = p;
          const { tokens } = d.light;
          expect(contrast(tokens[of].value, tokens[on].value), p.pair).toBeCloseTo(p.ratio, 6);
          if (p.passes) expect(p.ratio, p.pair).toBeGreaterThanOrEqual(p.need);
        }
        expect(lookCss(d.look)).not.toMatch(/[<>{}]|url|expression/);
      }),
      { numRuns: 120 },
    );
  });

  it('takes nothing from outside that could be more than a value', () => {
    expect(cleanValue('face', 'x;}body{color:red')).toBeUndefined();
    expect(cleanValue('face', '"Bad" , serif')).toBe("'Bad' , serif");
    expect(cleanValue('shadow', '0 0 1px url(http://x)')).toBeUndefined();
    expect(cleanValue('shadow', 'rgba(0, 0, 0, .2) 0px 1px 3px 0px')).toBe(
      'rgba(0, 0, 0, .2) 0px 1px 3px 0px',
    );
    expect(cleanValue('length', '1e9')).toBeUndefined();
    expect(cleanValue('colour', '#FFF')).toBeUndefined();
    expect(readDecision('tie:accent', { free: 'red' })).toBeUndefined();
    expect(readDecision('tie:accent', { to: 'constructor' })).toBeUndefined();
    expect(readDecision('tie:__proto__', { free: '#ffffff' })).toBeUndefined();
    expect(readDecision('as:button', 'site')).toBe('site');
    expect(readDecision('as:button', 'x')).toBeUndefined();
  });

  it('is told in the site’s own measure', () => {
    const d = dressedBy(
      'html{font-size:62.5%} body{font-size:1.6rem} .btn{background:#123;color:#fff;padding:1.2rem 2.4rem;border-radius:.6rem;display:inline-block}',
    );
    expect(valuesOf(d)).toMatchObject({ 'pad-x': '24', 'pad-y': '12', radius: '6' });
    const css = lookCss(d.look);
    expect(css).toContain('--stall-pad-x:2.4rem');
    expect(css).toContain('--stall-radius:0.6rem');
    expect(css).toContain('--stall-rem:1.6rem');
  });
});

describe('a token', () => {
  it('links are as those of the menu where no text has any, not the browser’s blue', () => {
    const html =
      '<header><a href="/">Etang</a> <nav><a href="/b">Venir</a></nav></header><main><p>Paniers tresses a la main, toute la saison.</p></main>';
    const css = 'body{background:#fff;color:#222} header a{color:#7a3b2e}';
    expect(foundOn(css, html).sources.link).toBe('#7a3b2e');
    const said = html.replace('a la main', '<a href="/m">a la main</a>');
    expect(foundOn(css, said).sources.link).toBe('#0000ee');
    expect(foundOn(`${css} a{color:#0b6e3b}`, html).sources.link).toBe('#0b6e3b');
    // In a column with a ground of its own they say it where they could be read on the page as well.
    const column = `${css} header{background:#f2eee6}`;
    expect(foundOn(column, html).sources.link).toBe('#7a3b2e');
    expect(foundOn(`${css} header{background:#102030} header a{color:#fff}`, html).sources.link).toBe(
      '#102030',
    );
  });

  it('of a dark bar that holds a menu alone is as the menu is, not the ink of the page made grey', () => {
    const html =
      '<header><a href="/">Tolling and Sons</a> <nav><a href="/b">Bells of every size</a> <a href="/r">Ropes and sallies</a></nav></header><main><p>Bells are hung here, all year round.</p></main>';
    const worn = dressedBy(
      'body{background:#fbf7ef;color:#23202a} header{background:#3d2a4f} header a{color:#fff}',
      {},
      html,
    );
    expect(worn.light.grounds).toMatchObject([
      { colour: '#3d2a4f', tokens: { ink: '#ffffff', link: '#ffffff' } },
    ]);
  });

  it('the site stands on what most of it stands on, not on a dark band with its longest paragraph', () => {
    const bands = `<header><a href="/">Home</a></header><main><p>${'Woven here. '.repeat(9)}</p><div class="dark"><p>${'Soaked, cut and woven in a shed beside the willow. '.repeat(4)}</p></div>${'<h2>What we make of willow</h2>'.repeat(9)}<p>${'All year round. '.repeat(4)}</p></main>`;
    const css = 'body{background:#fff;color:#333}.dark{background:#0b1011;color:#bbb}';
    expect(foundOn(css, bands).sources).toMatchObject({
      ground: '#ffffff',
      text: '#333333',
      deep: '#0b1011',
    });
  });

  it('is worn somewhere: none is for show', () => {
    const worn = [
      'src/core/storefront/storefront.css',
      'src/core/storefront/cart-sign.ts',
      'src/core/look/shape.ts',
      'src/widgets/stall-buy.ts',
      'src/widgets/cart-beside.ts',
    ]
      .map((file) => readFileSync(file, 'utf8'))
      .join('\n');
    // The width is that of the box around a shop page (services/sites/shop-pages.ts).
    const unworn = tokenNames.filter(
      (name) => name !== 'width' && !new RegExp(`--stall-${name}\\b[,)]`).test(worn),
    );
    expect(unworn).toEqual([]);
  });
});

describe('what is found', () => {
  it('is the page’s own, not what frameworks bring and nobody uses', () => {
    const framework =
      '.btn-primary{background:#0d6efd;color:#fff;padding:6px 12px;display:inline-block} .btn-danger{background:#dc3545;color:#fff}';
    const used = foundOn(
      `${framework} .shopnow{background:#2e7d32;color:#fff;padding:10px 20px;display:inline-block}`,
      PAGE.replace('class="btn button"', 'class="shopnow"').replace('class="btn"', ''),
    );
    expect(used.sources.button).toBe('#2e7d32');
    // Where no page has a button it is what one would look like.
    const none = foundOn(framework, PAGE.replace(/<p><a class="btn[\s\S]*?<\/p>|<form[\s\S]*?<\/form>/g, ''));
    expect(none.sources.button).toBe('#0d6efd');
  });

  it('says the same however often it is read', () => {
    const css = readFileSync('demo/withybed/css/withybed.css', 'utf8');
    const page = readFileSync('demo/withybed/index.html', 'utf8');
    expect(foundOn(css, page)).toEqual(foundOn(css, page));
    expect(dress(wardrobeOf(foundOn(css, page)), {})).toEqual(dress(wardrobeOf(foundOn(css, page)), {}));
  });
});
