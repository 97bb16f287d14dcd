import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import type { GoodsLine } from '../../services/goods/lines';
import type { SiteOverview } from '../../services/sites/overview';
import type { OrderList } from '../../services/till/orders';
import { call } from '../api';
import { benchHref, hrefOf, places } from '../places';
import { useBoot } from '../shop-context';
import { Sheet } from '../ui/dialog';
import { settingsIndex } from './settings-index';

interface Entry {
  readonly name: string;
  readonly note: string;
  readonly href: string;
  /** What else it is called. */
  readonly words?: readonly string[];
}

/** Pages that are listed; of larger sites the Pages lens finds the rest. */
const LISTED = 500;

/** Find or do: pages, goods, orders and acts by typing a few letters of them. */
export function Find({ onClose }: { onClose: () => void }) {
  const { site } = useBoot();
  const overview = useQuery({
    queryKey: ['overview'],
    queryFn: () => call<SiteOverview>(`/api/${site.slug}/overview`),
  });
  const goods = useQuery({
    queryKey: ['goods'],
    queryFn: () => call<GoodsLine[]>(`/api/${site.slug}/goods`),
  });
  const orders = useQuery({
    queryKey: ['orders', 'list', ''],
    queryFn: () => call<OrderList>(`/api/${site.slug}/orders?`),
  });
  const pages = overview.data?.columns.flatMap((c) => c.pages).filter((p) => !p.built) ?? [];
  const groups: readonly (readonly [string, readonly Entry[]])[] = [
    [
      'Do',
      [
        { name: 'Add a product', note: 'Goods', href: `${hrefOf(site.slug, 'goods')}?id=new` },
        ...(overview.data && !overview.data.selling
          ? [
              {
                name: 'Add selling',
                note: 'shop pages, menu and cart in one step',
                href: `${hrefOf(site.slug, 'site')}?add`,
              },
            ]
          : []),
        { name: 'Work on the menu', note: 'Site, Menus', href: `${hrefOf(site.slug, 'site')}?lens=menus` },
        {
          name: 'See how far each page is from a checkout',
          note: 'Site, Coverage',
          href: `${hrefOf(site.slug, 'site')}?lens=coverage`,
        },
        {
          name: 'Compare, go back, bring in a newer version, leave',
          note: 'Site, Publishing',
          href: `${hrefOf(site.slug, 'site')}?lens=publishing`,
        },
        { name: 'See the live site', note: site.liveUrl, href: site.liveUrl },
        { name: 'See the draft as a shopper', note: 'opens the site as it will be', href: site.draftUrl },
        {
          name: 'Fetch the published site as a ZIP',
          note: 'your files, with what is published',
          href: `/api/${site.slug}/site.zip`,
        },
        { name: 'Connect another site', note: 'ZIP or folder', href: '/connect' },
        ...places.map((p) => ({ name: `Go to ${p.name}`, note: 'place', href: hrefOf(site.slug, p.place) })),
      ],
    ],
    [
      'Settings',
      settingsIndex.map((s) => ({
        name: s.name,
        note: places.find((p) => p.place === s.place)?.name ?? '',
        href: `${hrefOf(site.slug, s.place)}${s.at}`,
        words: s.words,
      })),
    ],
    [
      'Pages',
      pages
        .slice(0, LISTED)
        .map((p) => ({ name: p.name, note: p.address, href: benchHref(site.slug, p.path) })),
    ],
    [
      'Goods',
      (goods.data ?? []).map((g) => ({
        name: g.name,
        note: `/${g.slug}`,
        href: `${hrefOf(site.slug, 'goods')}?id=${g.id}`,
      })),
    ],
    [
      'Orders',
      (orders.data?.rows ?? []).map((o) => ({
        name: o.name || 'Erased',
        note: o.number ? String(o.number) : 'not paid',
        href: `${hrefOf(site.slug, 'orders')}?id=${o.id}`,
      })),
    ],
  ];
  return (
    <Sheet title="Find or do" className="finder" onClose={onClose}>
      <Command label="Find or do">
        <Command.Input
          autoFocus
          placeholder="A page, a product, an order, or something to do"
          aria-label="Find or do"
        />
        <Command.List>
          <Command.Empty>Nothing is called that.</Command.Empty>
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
