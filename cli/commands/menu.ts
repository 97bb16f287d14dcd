import { computePage } from '../../src/core/placement/compute-page';
import { type MenuChange, menuChange } from '../../src/core/placement/menu-change';
import { menuNodes } from '../../src/core/site/menu';
import type { PagePath } from '../../src/core/site/paths';
import { regionsOf } from '../../src/core/site/regions';
import { type Command, type Output, UsageError } from '../support/command';
import { type ReadSite, readFrom } from '../support/site';
import { type Changes, targetOf, writeSite } from '../support/write-site';
import { count } from './read';

export const menu: Command = {
  name: 'menu',
  about: "Changes the menu in every page's copy of it: adds, renames, moves, nests or removes an item.",
  usage:
    'menu DIR [--add LABEL --to ADDRESS | --rename ITEM --label LABEL | --move ITEM | --remove ITEM]\n       [--under ITEM] [--before LABEL | --after LABEL] (--out DIR2 | --in-place)',
  help: 'ITEM is the label of an item; "Journal/2025" is 2025 below Journal. --under nests. Without a change, shows the menus and where copies differ.',
  options: {
    add: { type: 'string' },
    to: { type: 'string' },
    rename: { type: 'string' },
    label: { type: 'string' },
    move: { type: 'string' },
    remove: { type: 'string' },
    under: { type: 'string' },
    before: { type: 'string' },
    after: { type: 'string' },
    out: { type: 'string' },
    'in-place': { type: 'boolean' },
  },
  needs: ['DIR'],
  async run({ args: [dir = ''], flags }, out) {
    const change = changeFrom(flags);
    const target = change && targetOf(dir, flags);
    const site = await readFrom(dir, out);
    const copies = await copiesOf(site, out);
    if (!change || !target) return show(copies, out);
    const { changes, left } = await everywhere(site, change, out);
    await writeSite(site.files, dir, changes, target);
    out.give({ pages: changes.size, left, differing: differing(copies) });
    out.say(`The menu was changed on ${count(changes.size, 'page')}.`);
    for (const l of left) out.warn(`${l.page}: left as it is: ${l.why}.`);
    return left.length > 0 ? 1 : 0;
  },
};

function changeFrom(flags: Readonly<Record<string, string | boolean | undefined>>): MenuChange | undefined {
  const text = (name: string) => (typeof flags[name] === 'string' ? (flags[name] as string) : undefined);
  const path = (item: string | undefined) =>
    item
      ?.split('/')
      .map((s) => s.trim())
      .filter(Boolean) ?? [];
  const at = {
    under: path(text('under')),
    ...(text('before') && { before: text('before') }),
    ...(text('after') && { after: text('after') }),
  };
  const asked = ['add', 'rename', 'move', 'remove'].filter((name) => text(name) !== undefined);
  if (asked.length > 1) throw new UsageError(`choose one of --${asked.join(' and --')}`);
  const [verb] = asked;
  if (!verb) return undefined;
  const item = path(text(verb));
  const made = {
    add: { do: 'add', label: text('add'), to: text('to'), at },
    rename: { do: 'rename', item, label: text('label') },
    move: { do: 'move', item, at },
    remove: { do: 'remove', item },
  }[verb];
  const parsed = menuChange.safeParse(made);
  if (!parsed.success)
    throw new UsageError(
      `--${verb}: ${parsed.error.issues[0]?.path.join('.')}: ${parsed.error.issues[0]?.message}`,
    );
  return parsed.data;
}

async function everywhere(
  site: ReadSite,
  change: MenuChange,
  out: Output,
): Promise<{ changes: Changes; left: { page: string; why: string }[] }> {
  const changes = new Map<PagePath, Uint8Array>();
  const left: { page: string; why: string }[] = [];
  for (const [n, { path }] of site.reading.pages.entries()) {
    const done = computePage(
      await site.load(path),
      { placements: [], menu: [change] },
      { shopUrl: '', scriptUrl: '', cartHref: '', productName: () => undefined },
      site.index.find,
    );
    if (done.menuProblem) left.push({ page: path, why: done.menuProblem });
    else if (done.edits.length) changes.set(path, done.bytes);
    out.progress('changing menu of page', n + 1, site.reading.pages.length);
  }
  return { changes, left };
}

/** A copy of the menu as text, and the pages that have it so. */
type Copies = ReadonlyMap<string, PagePath[]>;

async function copiesOf(site: ReadSite, out: Output): Promise<Copies> {
  const copies = new Map<string, PagePath[]>();
  for (const [n, { path }] of site.reading.pages.entries()) {
    const page = await site.load(path);
    const root = regionsOf(page).get('menu')?.element;
    const text = root ? lines(menuNodes(root, path, page.source, site.index.find), 0).join('\n') : '';
    copies.set(text, [...(copies.get(text) ?? []), path]);
    out.progress('reading menu of page', n + 1, site.reading.pages.length);
  }
  return new Map([...copies].sort((a, b) => b[1].length - a[1].length));
}

interface Item {
  readonly label: string;
  readonly page?: PagePath;
  readonly href: string;
  readonly children: readonly Item[];
}
const lines = (items: readonly Item[], depth: number): string[] =>
  items.flatMap((i) => [
    `${'  '.repeat(depth)}${[i.label, i.page || i.href?.replace(/^(\.\.?\/)+/, '')].filter(Boolean).join('  ')}`,
    ...lines(i.children, depth + 1),
  ]);

/** Items without a link are the current one: where that alone differs, copies are the same. */
const bare = (text: string): string =>
  text
    .split('\n')
    .map((l) => l.replace(/ {2}\S+$/, ''))
    .join('\n');

function differing(copies: Copies): { menu: string[]; pages: PagePath[] }[] {
  const seen = new Map<string, { menu: string[]; pages: PagePath[] }>();
  for (const [text, pages] of copies) {
    const key = bare(text);
    const known = seen.get(key);
    if (known) known.pages.push(...pages);
    else seen.set(key, { menu: text.split('\n').filter(Boolean), pages: [...pages] });
  }
  return [...seen.values()];
}

function show(copies: Copies, out: Output): 0 | 1 {
  const all = differing(copies);
  out.give(all);
  for (const { menu: items, pages } of all) {
    out.say(
      `${items.length ? 'Menu' : 'No menu'} on ${count(pages.length, 'page')}: ${pages.slice(0, 5).join(', ')}${pages.length > 5 ? ', …' : ''}`,
    );
    for (const line of items) out.say(`  ${line}`);
  }
  return all.length > 1 ? 1 : 0;
}
