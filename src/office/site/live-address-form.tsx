import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, Problem, refresh } from '../api';
import { useBoot } from '../shop-context';
import { UrlField } from '../ui/url-field';
import { liveAddressForm as say } from '../words/site';

/** Where the site lives: shoppers come back there. A site that moved is told here. */
export function LiveAddressForm({ liveUrl }: { liveUrl: string }) {
  const { site } = useBoot();
  const [value, setValue] = useState(liveUrl);
  const [wrong, setWrong] = useState('');
  const [before, setBefore] = useState('');
  const set = useMutation({
    mutationFn: (to: string) => call(site.slug, 'PUT live-address', { body: { liveUrl: to } }),
    onSuccess: (now) => {
      setWrong('');
      setValue(now.liveUrl);
      // The undo stays for as long as the view does: nobody has to be quick.
      setBefore(now.liveUrl === before || now.liveUrl === liveUrl ? '' : liveUrl);
      refresh('overview', 'slip', 'diff', 'checks');
      toast.success(say.livesAt(now.liveUrl));
    },
    onError: (e) => (e instanceof Problem ? setWrong(e.message) : toast.error(e.message, { duration: 9000 })),
  });
  return (
    <section aria-label={say.whereTheSiteLives}>
      <h2>{say.whereTheSiteLives}</h2>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate(value.trim());
        }}
      >
        <UrlField
          label={say.address}
          value={value}
          onChange={setValue}
          wrong={wrong}
          note={say.shoppersComeBackThere}
        />
        {before && (
          <p className="note mt-2">
            {say.itWas(before)}{' '}
            <button
              type="button"
              className="underline"
              disabled={set.isPending}
              onClick={() => set.mutate(before)}
            >
              {say.undo}
            </button>
          </p>
        )}
        {value.trim() !== liveUrl && (
          <button type="submit" className="btn sm mt-2" disabled={set.isPending}>
            {say.itLivesThere}
          </button>
        )}
      </form>
    </section>
  );
}
