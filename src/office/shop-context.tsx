import { createContext, useContext } from 'react';
import type { Route } from '../contract/endpoints';
import { rightFor } from '../contract/rights';
import { mayDo, type Right, type Role } from '../core/people/roles';
import { formatMoney } from '../core/money/format';
import type { SetUp } from '../core/site/set-up';
import type { TaxClass } from '../core/goods/choices';

/** What every view knows: whose office this is and which site is open. */
export interface Boot {
  readonly place: Place;
  readonly person: { readonly name: string; readonly email: string; readonly role: Role };
  readonly site: {
    readonly slug: string;
    readonly name: string;
    readonly currency: string;
    readonly locale: string;
    readonly liveUrl: string;
    readonly draftUrl: string;
    readonly shopUrl: string;
    /**
     * A product's page, where shoppers are led: on the site itself once the shop is live there. `{}` stands
     * for its address.
     */
    readonly goodsAddress: string;
    /** The site's text font, and the files it brings. */
    readonly font: string;
    readonly fonts: readonly {
      readonly family: string;
      readonly weight: string;
      readonly style: string;
      readonly url: string;
    }[];
    /** Room for a badge's words on the narrowest card, in CSS pixels, as the shop's cards are made. */
    readonly badgeRoom: number;
    readonly country: string;
    /** Rates that hold where the business is, by tax class; and whether prices hold them: none where no tax is charged. */
    readonly taxRates: Readonly<Record<TaxClass, number>>;
    readonly taxIncluded: boolean;
    /** What is sold here, the first the most. */
    readonly sells: SetUp['sells'];
    readonly units: SetUp['units'];
  };
  readonly sites: readonly { readonly slug: string; readonly name: string }[];
}
export type Place = 'site' | 'bench' | 'goods' | 'look' | 'till' | 'orders' | 'checks';

export const BootContext = createContext<Boot | undefined>(undefined);

export function useBoot(): Boot {
  const boot = useContext(BootContext);
  if (!boot) throw new Error('a view of the office stands outside the office');
  return boot;
}

/**
 * Whether whoever is here may ask a route. What may not be asked is not shown: a button that is refused is
 * no help.
 */
export function useMay(): (route: Route) => boolean {
  const { role } = useBoot().person;
  return (route) => mayDo(role, rightFor[route]);
}

/** The same for a right that is not one route's. */
export const useHas = (right: Right): boolean => mayDo(useBoot().person.role, right);

export function useMoney(): (amount: number, currency?: string) => string {
  const { site } = useBoot();
  return (amount, currency = site.currency) => formatMoney({ amount, currency }, site.locale);
}

export const pictureOf = (shopUrl: string, hash: string | null, width = 96): string | undefined =>
  hash ? `${new URL(shopUrl).origin}/pictures/${hash}/${width}.webp` : undefined;
