/** Numbers that look random and come again with the same seed (mulberry32, public domain, constants from memory). */
export function seeded(seed: number): (below: number) => number {
  let a = seed >>> 0;
  return (below) => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * below);
  };
}

const words =
  'willow rod basket weave soak frost river bench handle trug oval log berry journal winter spring autumn cut bundle strip peel boil base rim stake upset waling border pairing twill colour brown buff white green market stall letter visit friday workshop beginner half day tea barn field'.split(
    ' ',
  );

export const sentence = (next: (below: number) => number, length: number): string => {
  const text = Array.from({ length }, () => words[next(words.length)]).join(' ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
};

/** Pages of an invented site, about 9 kB each: header, nested menu, a column in the journal, footer; old and new markup. */
export function* makeSite(pages: number, seed: number): Generator<readonly [string, string]> {
  const next = seeded(seed);
  const sections = ['', 'journal', 'baskets', 'workshops', 'notes'];
  for (let n = 0; n < pages; n++) {
    const section = n === 0 ? '' : (sections[n % sections.length] ?? '');
    const below = section ? `${section}/p${n}/index.html` : `p${n}.html`;
    const path = n === 0 ? 'index.html' : below;
    yield [path, page(next, n, section, '../'.repeat(path.split('/').length - 1))];
  }
}

function page(next: (below: number) => number, n: number, section: string, up: string): string {
  const blocks = Array.from({ length: 14 + next(8) }, (_, i) => block(next, i, up)).join('\n');
  const item = (href: string, label: string, current: boolean) =>
    `<li${current ? ' class="current"' : ''}><a href="${up}${href}">${label}</a></li>`;
  return `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>${sentence(next, 4)} \u00b7 Osier Farm</title><link rel="stylesheet" href="${up}site.css"></head>
<body>
<div id="top"><a class="logo" href="${up}index.html">Osier Farm</a>
<div id="nav"><ul>
${item('index.html', 'Home', n === 0)}${item('baskets/p2/index.html', 'Baskets', section === 'baskets')}
<li><a href="${up}journal/p1/index.html">Journal</a><ul>${item('notes/p4/index.html', 'Notes', section === 'notes')}</ul></li>
${item('workshops/p3/index.html', 'Workshops', section === 'workshops')}
</ul></div></div>
<div class="wrap"><div class="content"><h1>${sentence(next, 5)}</h1>
${blocks}
</div>${section === 'journal' ? `<div class="column"><h3>From the journal</h3><p>Written by the people of the farm, most weeks, about what is cut and what is made.</p><ul>${item('journal/p6/index.html', 'The first frost', false)}${item('journal/p11/index.html', 'Boiling day', false)}</ul></div>` : ''}</div>
<div id="foot"><p>Osier Farm, on the wet side of the river. Open Fridays.</p></div>
</body>
</html>
`;
}

function block(next: (below: number) => number, i: number, up: string): string {
  switch (next(6)) {
    case 0:
      return `<h2>${sentence(next, 4)}</h2><p>${sentence(next, 40)}</p>`;
    case 1:
      return `<ul>${Array.from({ length: 4 }, () => `<li>${sentence(next, 7)}</li>`).join('')}</ul>`;
    case 2:
      return `<figure><img src="${up}pictures/${next(40)}.jpg" alt="${sentence(next, 4)}" width="600" height="400"><figcaption>${sentence(next, 6)}</figcaption></figure>`;
    case 3:
      return `<table><tr><th>${sentence(next, 2)}<td>${sentence(next, 3)}<tr><th>${sentence(next, 2)}<td>${sentence(next, 3)}</table>`;
    default:
      return `<p>${sentence(next, 30 + next(60))} <a href="${up}baskets/p${2 + 5 * next(9)}/index.html">${sentence(next, 2)}</a> ${sentence(next, 12 + i)}</p>`;
  }
}
