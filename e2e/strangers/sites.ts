import { zipSync } from 'fflate';
import { chances } from '../support/person';

/**
 * Sites of other make than the demo's, each written anew for a run: names, colours and texts are random, so that nothing can be made
 * to fit them. Whoever owns one of them is as good an owner as ours.
 */
export interface Stranger {
  readonly make: string;
  readonly name: string;
  readonly lang: string;
  /** Language, currency and country that its set-up is expected to read, where it says so. */
  readonly files: Readonly<Record<string, string>>;
  /** Whether it has a menu that a shop item can go into. */
  readonly menu: boolean;
}

interface Words {
  readonly name: string;
  readonly colour: string;
  readonly second: string;
  readonly pages: readonly string[];
  readonly text: (n: number) => string;
  readonly pick: <T>(of: readonly T[]) => T;
}

const firsts = [
  'Alder',
  'Brindle',
  'Cobnut',
  'Dapple',
  'Elmet',
  'Furrow',
  'Gorse',
  'Heron',
  'Ingle',
  'Jasper',
];
const lasts = ['Forge', 'Pottery', 'Bakehouse', 'Bindery', 'Apiary', 'Press', 'Joinery', 'Tannery', 'Dairy'];
const topics = ['About', 'Process', 'Materials', 'Visits', 'Stories', 'Team', 'Press', 'Contact', 'Archive'];
const scraps = [
  'We open on Thursdays and whenever the lamp is lit.',
  'Everything here is made in the back room, slowly.',
  'Ask for Jo; the bell is hard to hear from the yard.',
  'The kiln takes two days to cool, and we do not hurry it.',
  'Bring a coat: the drying loft has no heating.',
  'Orders from last spring have all been sent now.',
  'There is a bus at ten past every hour from the market.',
];

function wordsFrom(seed: number): Words {
  const next = chances(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(next() * of.length)] as T;
  const colour = () =>
    `#${Array.from({ length: 3 }, () => (30 + Math.floor(next() * 130)).toString(16).padStart(2, '0')).join('')}`;
  const shuffled = [...topics].sort(() => next() - 0.5);
  return {
    name: `${pick(firsts)} ${pick(lasts)}`,
    colour: colour(),
    second: colour(),
    pages: shuffled,
    pick,
    text: (n) => Array.from({ length: n }, () => pick(scraps)).join(' '),
  };
}

const slug = (name: string): string => name.toLowerCase().replace(/[^a-z]+/g, '-');

/** A page laid out with tables, as they were around 2002. */
function tables(w: Words): Record<string, string> {
  const pages = ['index', ...w.pages.slice(0, 3).map(slug)];
  const page = (file: string, n: number) => `<HTML>
<HEAD><TITLE>${w.name}${n ? `: ${w.pages[n - 1]}` : ''}</TITLE></HEAD>
<BODY BGCOLOR="#ffffff" TEXT="#222222" LINK="${w.colour}" MARGINWIDTH=0>
<TABLE WIDTH=760 ALIGN=CENTER CELLPADDING=6 CELLSPACING=0 BORDER=0>
<TR><TD COLSPAN=2 BGCOLOR="${w.colour}"><FONT COLOR="#ffffff" SIZE=5 FACE="Georgia">${w.name}</FONT></TD></TR>
<TR><TD WIDTH=150 VALIGN=TOP BGCOLOR="#eeeeee">${pages.map((p, i) => `<A HREF="${p}.html">${i ? w.pages[i - 1] : 'Home'}</A><BR>`).join('\n')}</TD>
<TD VALIGN=TOP><H1>${n ? w.pages[n - 1] : w.name}</H1><P>${w.text(3)}<P>${w.text(2)}
<P>${file === 'index' ? `<IMG SRC="dot.gif" WIDTH=1 HEIGHT=1 ALT="">` : ''}${w.text(2)}</TD></TR>
<TR><TD COLSPAN=2 ALIGN=CENTER><FONT SIZE=1>&copy; ${w.name}</FONT></TD></TR>
</TABLE></BODY></HTML>
`;
  return Object.fromEntries(pages.map((p, n) => [`${p}.html`, page(p, n)]));
}

/** What a page builder writes out: wrappers in wrappers, styles in every element, classes without meaning. */
function wrappers(w: Words): Record<string, string> {
  const pages = w.pages.slice(0, 4);
  const wrap = (inner: string, deep: number): string =>
    deep === 0
      ? inner
      : `<div class="el-${deep} cnt" style="display:flex;flex-direction:column;width:100%">${wrap(inner, deep - 1)}</div>`;
  const nav = `<div class="nvb" style="display:flex;gap:18px">${['Home', ...pages].map((p, i) => `<div class="nvi"><a class="lnk" style="color:${w.colour};text-decoration:none" href="${i ? `/${slug(p)}/` : '/'}"><span>${p}</span></a></div>`).join('')}</div>`;
  const page = (
    title: string,
  ) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${title} - ${w.name}</title><style>body{margin:0;font-family:Verdana,sans-serif;color:#333}</style></head><body>
${wrap(`<div class="sec" style="display:flex;justify-content:space-between;padding:16px 40px;border-bottom:1px solid #ddd"><div class="brd" style="font-size:24px;color:${w.second}">${w.name}</div>${nav}</div>`, 3)}
${wrap(`<div class="sec" style="padding:40px;max-width:980px;margin:0 auto"><h1 style="color:${w.second}">${title}</h1><div class="txt"><p>${w.text(3)}</p></div><div class="txt"><p>${w.text(2)}</p></div><div class="row" style="display:flex;gap:20px"><div class="col" style="flex:1"><p>${w.text(1)}</p></div><div class="col" style="flex:1"><p>${w.text(1)}</p></div></div></div>`, 4)}
${wrap(`<div class="sec" style="padding:24px 40px;background:#f3f3f3"><p style="font-size:12px">${w.name}. ${w.text(1)}</p></div>`, 2)}
</body></html>`;
  return {
    'index.html': page('Home'),
    ...Object.fromEntries(pages.map((p) => [`${slug(p)}/index.html`, page(p)])),
  };
}

/** All there is on one page, with a menu that jumps within it. */
function onePage(w: Words): Record<string, string> {
  const parts = w.pages.slice(0, 4);
  return {
    'index.html': `<!DOCTYPE html>
<html lang="de"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${w.name}</title>
<style>:root{--a:${w.colour}}body{font:17px/1.6 Georgia,serif;margin:0;color:#2b2b2b}header{position:sticky;top:0;background:#fff;padding:.8rem 5vw;display:flex;justify-content:space-between}nav a{color:var(--a);margin-left:1.2rem}section{padding:4rem 5vw;max-width:46rem}section:nth-of-type(even){background:#f6f1ea}.btn{background:var(--a);color:#fff;padding:.6rem 1.4rem;border-radius:999px;text-decoration:none}</style></head>
<body><header><strong>${w.name}</strong><nav>${parts.map((p) => `<a href="#${slug(p)}">${p}</a>`).join('')}</nav></header>
<main>${parts.map((p) => `<section id="${slug(p)}"><h2>${p}</h2><p>${w.text(3)}</p><p>${w.text(2)}</p></section>`).join('\n')}<p><a class="btn" href="#${slug(parts[0] ?? '')}">${parts[0]}</a></p></main>
<footer><p>${w.name}, ${w.text(1)}</p></footer></body></html>
`,
  };
}

const plainPage = (
  w: Words,
  o: { title: string; css: string; nav: string; lang: string; body?: string },
) => `<!doctype html>
<html lang="${o.lang}">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${o.title} | ${w.name}</title>
<style>${o.css}</style></head>
<body>
<header class="top"><a class="brand" href="/">${w.name}</a>${o.nav}</header>
<main><h1>${o.title}</h1><p>${w.text(3)}</p>${o.body ?? ''}<p>${w.text(2)}</p><h2>${w.pick(topics)}</h2><p>${w.text(2)}</p></main>
<footer><p>${w.name}</p><p>${w.text(1)}</p></footer>
</body></html>
`;

/** A menu with eight items, so that one more does not fit everywhere. */
function eightItems(w: Words): Record<string, string> {
  const items = w.pages.slice(0, 8);
  const nav = (now: string) =>
    `<nav><ul>${items.map((p) => `<li${p === now ? ' class="on"' : ''}><a href="/${slug(p)}.html">${p}</a></li>`).join('')}</ul></nav>`;
  const css = `body{margin:0;font:16px/1.5 "Trebuchet MS",sans-serif;color:#223}.top{display:flex;align-items:center;gap:2rem;padding:1rem 2rem;background:${w.colour}}.top a{color:#fff;text-decoration:none}nav ul{display:flex;gap:1.1rem;list-style:none;margin:0;padding:0}.on a{border-bottom:2px solid #fff}main{max-width:44rem;margin:2rem auto;padding:0 1rem}footer{border-top:1px solid #ccc;padding:1rem 2rem}@media(max-width:700px){.top{flex-wrap:wrap}nav ul{flex-wrap:wrap}}`;
  const page = (title: string) => plainPage(w, { title, css, nav: nav(title), lang: 'en-GB' });
  return {
    'index.html': page('Welcome'),
    ...Object.fromEntries(items.map((p) => [`${slug(p)}.html`, page(p)])),
  };
}

/** Drop-downs made of `div`, opened by the pointer. */
function divMenus(w: Words): Record<string, string> {
  const [a = '', b = '', c = '', d = '', e = ''] = w.pages;
  const nav = `<div class="menu"><div class="entry"><a href="/">Home</a></div><div class="entry"><a href="/${slug(a)}.html">${a}</a><div class="drop"><div class="entry"><a href="/${slug(b)}.html">${b}</a></div><div class="entry"><a href="/${slug(c)}.html">${c}</a></div></div></div><div class="entry"><a href="/${slug(d)}.html">${d}</a></div><div class="entry"><a href="/${slug(e)}.html">${e}</a></div></div>`;
  const css = `body{margin:0;font:15px/1.6 Arial,sans-serif}.top{padding:20px;display:flex;justify-content:space-between;border-bottom:3px solid ${w.colour}}.menu{display:flex;gap:24px}.entry{position:relative}.drop{display:none;position:absolute;background:#fff;border:1px solid #ccc;padding:8px}.entry:hover>.drop{display:block}a{color:${w.colour}}main{padding:24px;max-width:800px}`;
  const page = (title: string) => plainPage(w, { title, css, nav, lang: 'fr' });
  return {
    'index.html': page('Accueil'),
    ...Object.fromEntries([a, b, c, d, e].map((p) => [`${slug(p)}.html`, page(p)])),
  };
}

/** A root font of 10 pixels, all sizes in rem after that. */
function tenPixels(w: Words): Record<string, string> {
  const items = w.pages.slice(0, 4);
  const nav = `<nav class="main-nav">${['Home', ...items].map((p, i) => `<a href="${i ? `${slug(p)}.html` : './'}">${p}</a>`).join(' ')}</nav>`;
  const css = `html{font-size:62.5%}body{font:1.7rem/1.6 "Palatino Linotype",serif;margin:0;color:#1d1d1b;background:#fbfaf7}.top{padding:2rem 4rem;display:flex;gap:4rem;align-items:baseline}.brand{font-size:2.6rem;color:${w.second}}.main-nav a{margin-right:1.6rem;color:${w.colour}}main{margin:0 auto;max-width:72rem;padding:2rem}h1{font-size:4rem}button,.button{background:${w.colour};color:#fff;border:0;border-radius:.4rem;padding:1.2rem 2.4rem;font:inherit}`;
  const page = (title: string) =>
    plainPage(w, { title, css, nav, lang: 'en-US', body: '<p><button type="button">Ask</button></p>' });
  return {
    'index.html': page('Home'),
    ...Object.fromEntries(items.map((p) => [`${slug(p)}.html`, page(p)])),
  };
}

/** All ways in a column, two lists of them under titles; the bar above is for phones alone. */
function titledColumn(w: Words): Record<string, string> {
  const items = w.pages.slice(0, 5);
  const list = (some: readonly string[]) =>
    `<ul>${some.map((p) => `<li><a href="/${slug(p)}.html">${p}</a></li>`).join('')}</ul>`;
  const css = `body{margin:0;font:16px/1.5 Georgia,serif;color:#2a2522;background:#fff}.phone-bar{display:none;background:${w.second};padding:12px 16px}.phone-bar a{color:#fff}.page{display:flex}.site-nav-side{width:220px;flex:none;padding:24px;background:#f2eee6;box-sizing:border-box}.site-nav-side a{color:${w.colour}}.site-nav-side ul{list-style:none;padding:0}.cap{font-size:13px;margin:24px 0 4px}.text{padding:24px 40px;max-width:640px}@media(max-width:700px){.phone-bar{display:block}.page{display:block}.site-nav-side{width:auto}.text{padding:16px}}`;
  const page = (
    title: string,
  ) => `<!doctype html><html lang="nl"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title} | ${w.name}</title><style>${css}</style></head><body>
<div class="phone-bar"><a href="/">${w.name}</a></div>
<div class="page"><nav class="site-nav-side"><a class="brand" href="/">${w.name}</a><p class="cap">Werkplaats</p>${list(items.slice(0, 3))}<p class="cap">Verder</p>${list(items.slice(3))}</nav>
<div class="text"><h1>${title}</h1><p>${w.text(3)}</p><p>${w.text(2)}</p><p>${w.text(2)}</p></div></div>
</body></html>`;
  return {
    'index.html': page('Welkom'),
    ...Object.fromEntries(items.map((p) => [`${slug(p)}.html`, page(p)])),
  };
}

/** Text first, header and menu last in the source, and put on top by position. */
function headerLast(w: Words): Record<string, string> {
  const items = w.pages.slice(0, 4);
  const css = `html{font-size:100%}body{margin:0;padding-top:92px;font:17px/1.55 Tahoma,sans-serif;color:#1f2a30}#top{position:absolute;top:0;left:0;width:100%;box-sizing:border-box;background:${w.colour};padding:18px 32px;display:flex;justify-content:space-between;align-items:center}#top a{color:#fff;text-decoration:none}#top ul{display:flex;gap:22px;list-style:none;margin:0;padding:0}#words{max-width:720px;margin:0 auto;padding:20px}#words a{color:${w.colour}}@media(max-width:700px){body{padding-top:150px}#top{display:block}#top ul{flex-wrap:wrap;gap:10px 18px;margin-top:10px}}`;
  const page = (
    title: string,
  ) => `<!doctype html><html lang="de"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title} - ${w.name}</title><style>${css}</style></head><body>
<div id="words"><h1>${title}</h1><p>${w.text(3)}</p><p>${w.text(2)}</p><p>${w.text(2)}</p></div>
<div id="top"><a href="/"><b>${w.name}</b></a><ul>${items.map((p) => `<li><a href="/${slug(p)}.html">${p}</a></li>`).join('')}</ul></div>
</body></html>`;
  return {
    'index.html': page('Willkommen'),
    ...Object.fromEntries(items.map((p) => [`${slug(p)}.html`, page(p)])),
  };
}

const makes = {
  tables: { make: tables, lang: 'en', menu: true },
  wrappers: { make: wrappers, lang: 'en', menu: true },
  'one page': { make: onePage, lang: 'de', menu: true },
  'eight items': { make: eightItems, lang: 'en-GB', menu: true },
  'menus of div': { make: divMenus, lang: 'fr', menu: true },
  'ten pixels': { make: tenPixels, lang: 'en-US', menu: true },
  'titled column': { make: titledColumn, lang: 'nl', menu: true },
  'header last': { make: headerLast, lang: 'de', menu: true },
} as const;
export type Make = keyof typeof makes;
export const allMakes = Object.keys(makes) as Make[];

/** A site of a make; another seed is another owner. */
export function stranger(make: Make, seed: number): Stranger {
  const { make: build, lang, menu } = makes[make];
  const w = wordsFrom(seed * 31 + allMakes.indexOf(make));
  return { make, name: w.name, lang, menu, files: build(w) };
}

export const zipOfFiles = (files: Readonly<Record<string, string>>): Buffer =>
  Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([p, t]) => [p, Buffer.from(t)]))));
