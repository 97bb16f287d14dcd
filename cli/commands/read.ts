import type { BlockFigures, Explained } from '../../src/core/site/find/explain';
import type { MenuItem } from '../../src/core/site/menu';
import type { SiteReading } from '../../src/core/site/read-site';
import type { Command, Output } from '../support/command';
import { readFrom } from '../support/site';

export const read: Command = {
  name: 'read',
  about: 'Reads a website and tells what it found: pages, menus, chrome, sections, fonts, pictures.',
  usage: 'read DIR|ZIP|ADDRESS [--why]',
  help: `Nothing is written. An address (https://…) is read as its visitors get it, a few pages at a time and as its robots.txt asks. Regions nobody can be sure of are listed; a plan can say where they are ("regions").
--why  tells under each page what speaks for its regions, in figures, and which menus were weighed.`,
  options: { why: { type: 'boolean' } },
  needs: ['DIR'],
  async run({ args, flags }, out) {
    const why = new Map<string, readonly Explained[]>();
    const onRegions = (path: string, explained: readonly Explained[]) => void why.set(path, explained);
    const { reading } = await readFrom(args[0] ?? '', out, undefined, flags.why ? onRegions : undefined);
    out.give(flags.why ? { ...reading, why: Object.fromEntries(why) } : reading);
    print(reading, why, out);
    for (const note of reading.notes) out.warn(note);
    return reading.unsure.length > 0 ? 1 : 0;
  },
};

function print(r: SiteReading, why: ReadonlyMap<string, readonly Explained[]>, out: Output): void {
  out.say(
    `${r.name}: ${count(r.pages.length, 'page')}, ${r.languages.join(', ') || 'no language named'}; ${r.moves.how === 'reloads' ? 'pages load one by one' : `${r.moves.how} (${r.moves.why})`}`,
  );
  out.say('');
  const wide = Math.min(44, Math.max(...r.pages.map((p) => p.path.length)));
  for (const p of r.pages.slice(0, 200)) {
    tellPage(p, wide, out);
    for (const region of why.get(p.path) ?? []) tellWhy(region, out);
  }
  if (r.pages.length > 200) out.say(`… and ${r.pages.length - 200} more; --json has them all`);
  for (const c of r.chrome.slice(0, 12)) {
    out.say(`\nChrome ${c.id + 1}: ${count(c.pages, 'page')}, as on ${c.model}`);
    menu(c.menu, out, 1);
  }
  if (r.sections.length)
    out.say(`\nSections: ${r.sections.map((s) => `${s.name} (${s.id}, ${s.pages})`).join('; ')}`);
  if (r.fonts.length)
    out.say(
      `Fonts: ${r.fonts.map((f) => `${f.family} ${f.weight} ${f.style}${f.missing ? ' (file missing)' : ''}`).join('; ')}`,
    );
  if (r.pictures.length) tellPictures(r.pictures, out);
  for (const u of r.unsure)
    out.say(
      `Not sure: the ${u.region} of ${u.page}${u.pages > 1 ? ` and ${u.pages - 1} more` : ''} (${Math.round(u.confidence * 100)}%)`,
    );
}

function tellPage(p: SiteReading['pages'][number], wide: number, out: Output): void {
  const regions = p.regions.map((x) => `${x.region} ${Math.round(x.confidence * 100)}%`).join(', ');
  const title = (p.heading || p.title || '(no title)').slice(0, 40);
  const dead = p.dead.length
    ? `; ${count(p.dead.length, 'dead link')}: ${p.dead.slice(0, 3).join(', ')}`
    : '';
  out.say(`${p.path.padEnd(wide)}  ${p.kind.padEnd(7)}  ${title}`);
  out.say(
    `${''.padEnd(wide)}  chrome ${p.chrome + 1}: ${regions || 'no region found'}; ${p.encoding} (${p.encodingFrom}), ${p.lineEnds}${dead}`,
  );
}

/** "menu 97%, by meaning: nav:0/ul:0, says menu; 96 letters, 100% on other pages too, 92% links; 7 links to 6 pages". */
function tellWhy({ region, confidence, by, blocks, weighed = [] }: Explained, out: Output): void {
  for (const [n, b] of blocks.slice(0, 3).entries())
    out.say(
      n === 0 ? `    ${region} ${percent(confidence)}, by ${by}: ${block(b)}` : `      and ${block(b)}`,
    );
  if (blocks.length > 3) out.say(`      and ${count(blocks.length - 3, 'block')} more`);
  for (const w of weighed) out.say(`      ${w.score.toFixed(2).padStart(6)}  ${block(w)}`);
}

const percent = (share: number): string => `${Math.round(share * 100)}%`;

function block(b: BlockFigures): string {
  const says = [b.says && `says ${b.says}`, b.named && `called ${b.named}`].filter(Boolean).join(', ');
  const ways = b.ways ? `, ${count(b.ways, 'way')} back and on` : '';
  return `${b.path || 'the body'}${says && `, ${says}`}; ${count(b.letters, 'letter')}, ${percent(b.shared)} on other pages too, ${percent(b.linked)} links; ${count(b.links, 'link')} to ${count(b.pages, 'page')}${ways}`;
}

function tellPictures(pictures: SiteReading['pictures'], out: Output): void {
  const some = pictures.slice(0, 4).map((p) => `${p.path} ${p.width}x${p.height}`);
  out.say(`Pictures: ${pictures.length}, ${some.join(', ')}${pictures.length > some.length ? ', …' : ''}`);
}

function menu(items: readonly MenuItem[], out: Output, depth: number): void {
  for (const item of items) {
    out.say(`${'  '.repeat(depth)}${item.label}${item.current ? ' *' : ''}  ${item.page ?? item.href}`);
    menu(item.children, out, depth + 1);
  }
}

export const count = (n: number, what: string): string =>
  `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`;
