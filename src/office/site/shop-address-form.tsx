import { useMutation } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { MenuView } from '../../services/sites/menus';
import { call, Problem, refresh } from '../api';
import { useBoot } from '../shop-context';

/** Where the shop's own page is, what it is called, and whether it is the front page. Addresses it had lead on to it. */
export function ShopAddressForm({ shop, onAdd }: { shop: MenuView['shop']; onAdd: () => void }) {
  const { site } = useBoot();
  const [slug, setSlug] = useState(shop?.slug ?? '');
  const [wrong, setWrong] = useState('');
  useEffect(() => setSlug(shop?.slug ?? ''), [shop?.slug]);
  const set = useMutation({
    mutationFn: (to: { slug?: string; name?: string; front?: boolean }) =>
      call(`/api/${site.slug}/selling`, 'PATCH', to),
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
      <section aria-label="Where the shop lives">
        <div className="col-h">
          <h2>Where the shop lives</h2>
        </div>
        <p className="note">There is no shop page yet.</p>
        <button type="button" className="btn leaf sm mt-2" onClick={onAdd}>
          Add selling
        </button>
      </section>
    );
  }
  const host = site.liveUrl.startsWith('http') ? new URL(site.liveUrl).host : '';
  return (
    <section aria-label="Where the shop lives">
      <div className="col-h">
        <h2>Where the shop lives</h2>
      </div>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate({ slug });
        }}
      >
        <label className="lab" htmlFor="shop-slug">
          Address
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
            Move the shop there
          </button>
        )}
      </form>
      <p className="note mt-2">
        {shop.old.length ? (
          <>Old addresses that lead to it: {shop.old.map((s) => `/${s}`).join(', ')}.</>
        ) : (
          'Change it, and the old address still leads here.'
        )}
      </p>
      <label className="flex gap-2 mt-3">
        <input
          type="checkbox"
          checked={shop.front}
          disabled={set.isPending}
          onChange={(e) => set.mutate({ front: e.target.checked })}
        />
        It is the front page
      </label>
      <p className="note mt-1">
        {shop.front
          ? 'Your own front page stands at /home, all its links as they were.'
          : 'Your own front page would move to /home; nothing of it is lost.'}
      </p>
    </section>
  );
}
