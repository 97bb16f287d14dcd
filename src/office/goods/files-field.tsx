import { FileDown, Plus, X } from 'lucide-react';
import { lazy, Suspense, useId } from 'react';
import { type KeptFile, MAX_FILE, type Release, sizeWords } from '../../core/goods/downloads';
import { useBoot } from '../shop-context';
import { TextField, Wrong } from './fields';
import type { Draft, Errors } from './form';
import type { Change } from './use-draft';
import { type Uploading, useUpload } from './use-upload';

const RichEditor = lazy(() => import('./rich-editor'));

/** "1.2" → "1.3", "2026 spring" → "": what the next release is most likely called. */
export const nextName = (name: string | undefined): string =>
  name === undefined
    ? '1.0'
    : name.replace(/(\d+)(?!.*\d)/, (n) => String(Number(n) + 1)).replace(/^(?!.*\d).*$/, '');

/** What is downloaded: the rule, and the releases with their files, the newest on top. */
export function FilesField({ draft, change, errors }: { draft: Draft; change: Change; errors: Errors }) {
  const { releases, limit, days } = draft.downloads;
  const set = (key: string, to: (d: Draft['downloads']) => Draft['downloads']) =>
    change(key, (d) => ({ ...d, downloads: to(d.downloads) }));
  const put = (n: number, to: (r: Release) => Release) =>
    set(`release-${n}`, (d) => ({ ...d, releases: d.releases.map((r, i) => (i === n ? to(r) : r)) }));
  const values = draft.options.flatMap((o) => o.values.map((v) => v.name));
  const begin = () =>
    set('releases', (d) => ({
      ...d,
      releases: [
        {
          name: nextName(d.releases[0]?.name),
          date: new Date().toISOString().slice(0, 10),
          notes: '',
          files: [],
        },
        ...d.releases,
      ],
    }));
  return (
    <section className="gfiles" aria-label="Files">
      <div className="gopt">
        <h2>Files</h2>
        <span className="note">Buyers get them at once; each address works in their browser alone.</span>
      </div>
      <div className="g-4">
        <TextField
          label="Each file, at most"
          value={limit}
          mode="numeric"
          after="times"
          placeholder="as often as wished"
          onChange={(v) => set('limit', (d) => ({ ...d, limit: v }))}
        />
        <TextField
          label="Within"
          value={days}
          mode="numeric"
          after="days"
          placeholder="for ever"
          onChange={(v) => set('days', (d) => ({ ...d, days: v }))}
        />
      </div>
      <Wrong text={errors.downloads} />
      {!releases.some((r) => r.files.length) && (
        <p className="note">
          <b className="bad">Whoever buys it now gets nothing:</b> there is no file yet.
        </p>
      )}
      {releases.map((r, n) => (
        <One
          // biome-ignore lint/suspicious/noArrayIndexKey: a release has no identity but its place while its name is written
          key={n}
          release={r}
          newest={n === 0}
          values={values}
          put={(to) => put(n, to)}
          onRemove={() => set('releases', (d) => ({ ...d, releases: d.releases.filter((_, i) => i !== n) }))}
        />
      ))}
      <button type="button" className="btn sm" onClick={begin}>
        <Plus size={12} aria-hidden />
        {releases.length ? 'A newer release' : 'A first release'}
      </button>
    </section>
  );
}

function One({
  release: r,
  newest,
  values,
  put,
  onRemove,
}: {
  release: Release;
  newest: boolean;
  values: readonly string[];
  put: (to: (r: Release) => Release) => void;
  onRemove: () => void;
}) {
  const { site } = useBoot();
  const { now, take, stop } = useUpload<KeptFile>(
    (file) => `/api/${site.slug}/files?name=${encodeURIComponent(file.name)}`,
    (kept) =>
      put((own) => ({
        ...own,
        files: [...own.files.filter((f) => f.hash !== kept.hash), { ...kept, only: '' }],
      })),
  );
  const id = useId();
  return (
    <details className="grelease" open={newest}>
      <summary>
        <b className="mono">{r.name || 'unnamed'}</b>
        <span className="note">
          {r.date}, {r.files.length === 1 ? '1 file' : `${r.files.length} files`}
          {newest ? ', the one buyers meet first' : ''}
        </span>
      </summary>
      <div className="g-4">
        <TextField
          label="Release"
          value={r.name}
          most={40}
          onChange={(name) => put((own) => ({ ...own, name }))}
        />
        <TextField
          label="Came out"
          type="date"
          value={r.date}
          onChange={(date) => put((own) => ({ ...own, date }))}
        />
      </div>
      <ul className="gparts">
        {r.files.map((f) => (
          <li key={f.hash}>
            <FileDown size={14} aria-hidden />
            <span>{f.name}</span>
            <span className="note mono">{sizeWords(f.size, site.locale)}</span>
            {values.length > 0 && (
              <select
                className="in"
                aria-label={`Who gets ${f.name}`}
                value={f.only}
                onChange={(e) =>
                  put((own) => ({
                    ...own,
                    files: own.files.map((x) => (x.hash === f.hash ? { ...x, only: e.target.value } : x)),
                  }))
                }
              >
                <option value="">every buyer</option>
                {values.map((v) => (
                  <option key={v} value={v}>
                    only {v}
                  </option>
                ))}
              </select>
            )}
            <button
              type="button"
              aria-label={`Take out ${f.name}`}
              onClick={() => put((own) => ({ ...own, files: own.files.filter((x) => x.hash !== f.hash) }))}
            >
              <X size={13} />
            </button>
          </li>
        ))}
      </ul>
      {now ? (
        <Progress now={now} onStop={stop} />
      ) : (
        <label className="btn sm" htmlFor={id}>
          <Plus size={12} aria-hidden />
          Files, up to {MAX_FILE / 1e9} GB each
          <input
            id={id}
            className="sr-only"
            type="file"
            multiple
            onChange={(e) => {
              void take([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
        </label>
      )}
      <span className="lab mt-1">What is new in it; shoppers read it in the release notes</span>
      <Suspense fallback={<p className="note">Opening…</p>}>
        <RichEditor
          label={`What is new in ${r.name || 'this release'}`}
          value={r.notes}
          onChange={(notes) => put((own) => ({ ...own, notes }))}
        />
      </Suspense>
      <button type="button" className="btn sm quiet beet" onClick={onRemove}>
        <X size={12} aria-hidden />
        Take release {r.name} away
      </button>
    </details>
  );
}

export function Progress({ now, onStop }: { now: Uploading; onStop: () => void }) {
  const { site } = useBoot();
  return (
    <p className="gprogress" role="status">
      <span className="note">{now.name}</span>
      <progress max={now.all || 1} value={now.done} aria-label={`${now.name}, sent so far`} />
      <span className="note mono">
        {sizeWords(now.done, site.locale)} of {sizeWords(now.all, site.locale)}
      </span>
      <button type="button" className="btn sm quiet" onClick={onStop}>
        Stop
      </button>
    </p>
  );
}
