import { useMutation, useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { ask, refresh, viewKey } from '../api';
import { when } from '../ui/when';
import { sessions as say } from '../words/account';
import { browserName } from './browser-name';

function nameOf(userAgent: string): string {
  const known = browserName(userAgent);
  return known ? say.browserOn(known.browser, known.system) : say.unknownBrowser;
}

/** Browsers that are signed in as this person; each can be signed out from here. */
export function Sessions() {
  const me = useQuery({ queryKey: viewKey('me'), queryFn: () => ask('GET me', {}) });
  const end = useMutation({
    mutationFn: (body: { id: string } | 'others') => ask('DELETE sessions', { body }),
    onSuccess: ({ ended }) => void toast.success(say.gone(ended)),
    onError: (e) => void toast.error(e.message),
    onSettled: () => refresh('me', 'activity'),
  });
  if (me.error) return <p className="empty bad">{me.error.message}</p>;
  if (!me.data) return <p className="empty note">{say.fetching}</p>;
  const { sessions } = me.data;
  return (
    <section className="acct-part wide" aria-labelledby="sessions-h">
      <h1 id="sessions-h">{say.whereYouAre}</h1>
      <ul className="acct-list">
        {sessions.map((s) => (
          <li key={s.id}>
            <div>
              <b>{nameOf(s.browser)}</b>{' '}
              {s.current && <span className="acct-state on">{say.thisBrowser}</span>}
              <p className="note mono">
                {say.since(when(s.since))} · {say.from(s.address)}
              </p>
            </div>
            {!s.current && (
              <button
                type="button"
                className="btn sm"
                aria-label={say.signOutOf(nameOf(s.browser))}
                disabled={end.isPending}
                onClick={() => end.mutate({ id: s.id })}
              >
                {say.signOut}
              </button>
            )}
          </li>
        ))}
      </ul>
      {sessions.length > 1 && (
        <button
          type="button"
          className="btn beet"
          disabled={end.isPending}
          onClick={() => end.mutate('others')}
        >
          {say.all}
        </button>
      )}
    </section>
  );
}
