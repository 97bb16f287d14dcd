import { useMutation } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { MenuView } from '../../services/sites/menus';
import { call, Problem, refresh } from '../api';
import { useBoot } from '../shop-context';
import { shopAddressForm as say } from '../words/site';

/** Where the shop's own page is, what it is called, and whether it is the front page. Addresses it had lead on to it. */
export function ShopAddressForm({ shop, onAdd }: { shop: MenuView['shop']; onAdd: () => void }) {
  const { site } = useBoot();
  const [slug, setSlug] = useState(shop?.slug ?? '');
  const [wrong, setWrong] = useState('');
  useEffect(() => setSlug(shop?.slug ?? ''), [shop?.slug]);
  const set = useMutation({
    mutationFn: (to: { slug?: string; name?: string; front?: boolean }) =>
      call(site.slug, 'PATCH selling', { body: to }),
    onSuccess: () => {
      setWrong('');
      refresh('menu', 'slip', 'overview', 'bench', 'diff');
    },
    onError: (e) =>
      e instanceof Problem && e.field === 'slug'
        ? setWrong(e.message)
        : toast.error(e.message, { duration: 9000 }),
  });
  if (!shop) {
    return (
      <section aria-label={say.whereTheShopLives}>
        <div className="col-h">
          <h2>{say.whereTheShopLives}</h2>
        </div>
        <p className="note">{say.thereIsNoShopPageYet}</p>
        <button type="button" className="btn leaf sm mt-2" onClick={onAdd}>
          {say.addSelling}
        </button>
      </section>
    );
  }
  const host = site.liveUrl.startsWith('http') ? new URL(site.liveUrl).host : '';
  return (
    <section aria-label={say.whereTheShopLives}>
      <div className="col-h">
        <h2>{say.whereTheShopLives}</h2>
      </div>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate({ slug });
        }}
      >
        <label className="lab" htmlFor="shop-slug">
          {say.address}
        </label>
        <div className="in mono">
          <u>{host}/</u>
          <input
            id="shop-slug"
            value={slug}
            aria-invalid={!!wrong}
            spellCheck={false}
            onChange={(e) => setSlug(e.target.value)}
          />
        </div>
        {wrong && (
          <p className="field-error" role="alert">
            {wrong}
          </p>
        )}
        {slug !== shop.slug && (
          <button type="submit" className="btn sm mt-2" disabled={set.isPending}>
            {say.moveTheShopThere}
          </button>
        )}
      </form>
      <p className="note mt-2">
        {shop.old.length
          ? say.oldAddressesThatLeadToIt(shop.old.map((s) => `/${s}`).join(', '))
          : say.changeItAndTheOldAddress}
      </p>
      <label className="flex gap-2 mt-3">
        <input
          type="checkbox"
          // What was pressed is shown while it is on its way.
          checked={set.isPending ? (set.variables?.front ?? shop.front) : shop.front}
          disabled={set.isPending}
          onChange={(e) => set.mutate({ front: e.target.checked })}
        />
        {say.itIsTheFrontPage}
      </label>
      <p className="note mt-1">{shop.front ? say.yourOwnFrontPageStandsAt : say.yourOwnFrontPageWouldMove}</p>
    </section>
  );
}
