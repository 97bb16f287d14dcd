import { describe, expect, it } from 'vitest';
import { prose, readFiles, regionsIn } from '../testing';

const item = (href: string, said: string) => `<li><a href="${href}">${said}</a></li>`;

describe('makes of site that are rare, and read all the same', () => {
  it('a search page whose main part is still empty', async () => {
    const around = (main: string) =>
      `<body><div class="frame"><div class="bar"><ul>${item('index.html', 'Hemp and Tar')}${item('a.html', 'Ropes')}${item('b.html', 'Find')}</ul></div><div role="main">${main}</div><footer><p>Hemp and Tar, made by the harbour since 1902</p></footer></div>`;
    const site = await readFiles({
      'index.html': around(prose('start')),
      'a.html': around(prose('ropes')),
      'b.html': around('<div id="results"></div>'),
    });
    expect(regionsIn(site, 'b.html')).toMatchObject({
      main: 'div:0/div:1',
      footer: 'div:0/footer:0',
      menu: 'div:0/div:0',
    });
  });

  it('one long page with dialogs behind its footer, that the style sheet hides', async () => {
    const section = (name: string) => `<section id="${name}"><h2>${name}</h2>${prose(name)}</section>`;
    const dialog = (name: string) => `<div class="dialog">${prose(name)}<button>Close</button></div>`;
    const site = await readFiles({
      'index.html': `<head><style>.dialog{display:none;position:fixed;top:0}</style></head><body><nav><ul>${item('#rope', 'Rope')}${item('#nets', 'Nets')}${item('#visit', 'Visit')}</ul></nav><header><h1>Hemp and Tar</h1><p>Rope is walked here since 1902, by the harbour</p></header>${section('rope')}${section('nets')}${section('visit')}<footer><p>Quay Lane 4</p></footer>${dialog('first')}${dialog('second')}</body>`,
    });
    expect(regionsIn(site, 'index.html')).toMatchObject({
      header: 'nav:0',
      main: '[1-4]',
      footer: 'footer:0',
      menu: 'nav:0',
    });
  });

  it('crumbs that say they are a navigation, beside a column: no header', async () => {
    const page = (n: number) =>
      `<body><div class="frame"><nav class="sidebar"><p>Hemp and Tar</p><ul>${item('index.html', 'Home')}${item('a.html', 'Ropes')}${item('b.html', 'Knots')}</ul></nav><div class="column"><div role="navigation" aria-label="Where"><ul class="x-breadcrumbs"><li><a href="index.html">Hemp and Tar</a></li><li>Here</li></ul></div><div role="main"><h1>Title ${n}</h1>${prose(`one${n}`)}</div></div></div>`;
    const site = await readFiles({ 'index.html': page(0), 'a.html': page(1), 'b.html': page(2) });
    expect(regionsIn(site, 'a.html')).not.toHaveProperty('header');
    expect(regionsIn(site, 'a.html')).toMatchObject({ side: 'div:0/nav:0', main: 'div:0/div:0/div:1' });
  });

  it('a navigation without a name that the style sheet puts beside the rest is a column and no header', async () => {
    const page = (n: number, float: string) =>
      `<head><style>nav{${float}width:240px}</style></head><body><nav><h2>Hemp and Tar</h2><ul>${item('index.html', 'Home')}${item('a.html', 'Ropes')}${item('b.html', 'Knots')}</ul></nav><main><h1>Title ${n}</h1>${prose(`one${n}`)}</main></body>`;
    const site = (float: string) =>
      readFiles({ 'index.html': page(0, float), 'a.html': page(1, float), 'b.html': page(2, float) });
    expect(regionsIn(await site('float:left;'), 'a.html')).toMatchObject({ side: 'nav:0' });
    expect(regionsIn(await site('float:left;'), 'a.html')).not.toHaveProperty('header');
    expect(regionsIn(await site(''), 'a.html')).toMatchObject({ header: 'nav:0' });
  });

  it('two lists of one menu, of which only the second has a title', async () => {
    const page = (n: number) =>
      `<body><div class="sidebar"><div class="menu" role="navigation"><ul>${item('index.html', 'Home')}${item('a.html', 'Ropes')}${item('b.html', 'Knots')}</ul><p>More of it</p><ul>${item('c.html', 'Splices')}${item('d.html', 'Whippings')}</ul></div></div><div class="text"><h1>Title ${n}</h1>${prose(`one${n}`)}</div></body>`;
    const site = await readFiles(
      Object.fromEntries(['index', 'a', 'b', 'c', 'd'].map((name, n) => [`${name}.html`, page(n)])),
    );
    expect(site.menu.map((m) => m.label)).toEqual(['Home', 'Ropes', 'Knots', 'Splices', 'Whippings']);
  });
});
