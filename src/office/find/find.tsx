import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { address } from '../../contract/address';
import { call, viewKey } from '../api';
import { benchHref, hrefOf, places } from '../places';
import { useBoot } from '../shop-context';
import { Sheet } from '../ui/dialog';
import { settingsIndex } from './settings-index';
import { find as say } from '../words/find';

interface Entry {
  readonly name: string;
  readonly note: string;
  readonly href: string;
  /** What else it is called. */
  readonly words?: readonly string[];
}

/** Pages that are listed; of larger sites the Pages lens finds the rest. */
const LISTED = 500;

const MOVES = new Set(['ArrowDown', 'ArrowUp', 'Home', 'End', 'Tab']);

/**
 * The best of what was found is chosen until somebody chooses another by arrow or pointer, so that Enter opens it: also where it
 * came after it was typed, and after others that fit less well.
 */
function useBestChosen() {
  const [chosen, choose] = useState('');
  const list = useRef<HTMLDivElement>(null);
  const moved = useRef(false);
  useEffect(() => {
    const soon = requestAnimationFrame(() => {
      if (moved.current) return;
      choose(list.current?.querySelector('[cmdk-item]')?.getAttribute('data-value') ?? '');
    });
    return () => cancelAnimationFrame(soon);
  });
  return {
    chosen,
    choose,
    list,
    onType: () => {
      moved.current = false;
    },
    onKeyDown: (e: KeyboardEvent) => {
      if (MOVES.has(e.key)) moved.current = true;
    },
    onPointerMove: () => {
      moved.current = true;
    },
  };
}

/** Find or do: pages, goods, orders and acts by typing a few letters of them. */
export function Find({ onClose }: { onClose: () => void }) {
  const { site } = useBoot();
  const overview = useQuery({
    queryKey: viewKey('overview'),
    queryFn: () => call(site.slug, 'GET overview'),
  });
  const goods = useQuery({
    queryKey: viewKey('goods'),
    queryFn: () => call(site.slug, 'GET goods'),
  });
  const orders = useQuery({
    queryKey: viewKey('orders', 'list', ''),
    queryFn: () => call(site.slug, 'GET orders'),
  });
  const { chosen, choose, list, onType, onKeyDown, onPointerMove } = useBestChosen();
  const pages = overview.data?.columns.flatMap((c) => c.pages).filter((p) => !p.built) ?? [];
  const groups: readonly (readonly [string, readonly Entry[]])[] = [
    [
      say.do,
      [
        { name: say.addAProduct, note: say.goods, href: `${hrefOf(site.slug, 'goods')}?id=new` },
        ...(overview.data && !overview.data.selling
          ? [
              {
                name: say.addSelling,
                note: say.shopPagesMenuAndCartIn,
                href: `${hrefOf(site.slug, 'site')}?add`,
              },
            ]
          : []),
        { name: say.workOnTheMenu, note: say.siteMenus, href: `${hrefOf(site.slug, 'site')}?lens=menus` },
        {
          name: say.seeHowFarEachPageIs,
          note: say.siteCoverage,
          href: `${hrefOf(site.slug, 'site')}?lens=coverage`,
        },
        {
          name: say.compareGoBackBringInA,
          note: say.sitePublishing,
          href: `${hrefOf(site.slug, 'site')}?lens=publishing`,
        },
        { name: say.seeTheLiveSite, note: site.liveUrl, href: site.liveUrl },
        { name: say.seeTheDraftAsAShopper, note: say.opensTheSiteAsItWill, href: site.draftUrl },
        {
          name: say.fetchThePublishedSiteAsA,
          note: say.yourFilesWithWhatIsPublished,
          href: address(site.slug, 'GET site.zip', {}),
        },
        { name: say.connectAnotherSite, note: say.zipOrFolder, href: '/connect' },
        ...places.map((p) => ({ name: say.goTo(p.name), note: 'place', href: hrefOf(site.slug, p.place) })),
      ],
    ],
    [
      say.settings,
      settingsIndex.map((s) => ({
        name: s.name,
        note: places.find((p) => p.place === s.place)?.name ?? '',
        href: `${hrefOf(site.slug, s.place)}${s.at}`,
        words: s.words,
      })),
    ],
    [
      say.pages,
      pages
        .slice(0, LISTED)
        .map((p) => ({ name: p.name, note: p.address, href: benchHref(site.slug, p.path) })),
    ],
    [
      say.goods,
      (goods.data ?? []).map((g) => ({
        name: g.name,
        note: `/${g.slug}`,
        href: `${hrefOf(site.slug, 'goods')}?id=${g.id}`,
      })),
    ],
    [
      say.orders,
      (orders.data?.shelves.flatMap((s) => s.rows) ?? []).map((o) => ({
        name: o.name || say.erased,
        note: o.number ? String(o.number) : say.notPaid,
        href: `${hrefOf(site.slug, 'orders')}?id=${o.id}`,
      })),
    ],
  ];
  return (
    <Sheet title={say.findOrDo} className="finder" onClose={onClose}>
      <Command label={say.findOrDo} value={chosen} onValueChange={choose} onKeyDown={onKeyDown}>
        <Command.Input
          autoFocus
          placeholder={say.aPageAProductAnOrder}
          aria-label={say.findOrDo}
          onValueChange={onType}
        />
        <Command.List ref={list} onPointerMove={onPointerMove}>
          <Command.Empty>{say.nothingIsCalledThat}</Command.Empty>
          {groups.map(([heading, entries]) => (
            <Command.Group key={heading} heading={heading}>
              {entries.map((e) => (
                <Command.Item
                  key={e.href + e.name}
                  value={`${e.name} ${e.note}`}
                  keywords={[...(e.words ?? [])]}
                  onSelect={() => location.assign(e.href)}
                >
                  <span>{e.name}</span>
                  <span className="note">{e.note}</span>
                </Command.Item>
              ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </Sheet>
  );
}
