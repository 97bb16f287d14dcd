import { apiOf } from './cart-state';

export interface ProductData {
  readonly name: string;
  readonly price: string;
  readonly stock: string;
  readonly soldOut: boolean;
}
export interface PageData {
  readonly goods: Readonly<Record<string, ProductData>>;
  readonly look: string;
}

const asked = new Map<string, { slugs: Set<string>; answer: Promise<PageData> }>();

/** One request for all widgets of a page: those that ask in the same moment are answered together. */
export function pageData(shop: string, slug = ''): Promise<PageData> {
  const open = asked.get(shop);
  if (open) {
    if (slug) open.slugs.add(slug);
    return open.answer;
  }
  const slugs = new Set(slug ? [slug] : []);
  const answer = new Promise<void>((soon) => setTimeout(soon)).then(async () => {
    asked.delete(shop);
    const found = await fetch(`${apiOf(shop)}/page?goods=${[...slugs].sort().map(encodeURIComponent).join(',')}`);
    if (!found.ok) throw new Error(`Green Stall: ${shop} answered ${found.status}`);
    return (await found.json()) as PageData;
  });
  asked.set(shop, { slugs, answer });
  return answer;
}
