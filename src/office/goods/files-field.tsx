import { address } from '../../contract/address';
import { FileDown, Plus, X } from 'lucide-react';
import { lazy, Suspense, useId } from 'react';
import { type KeptFile, MAX_FILE, type Release, sizeWords } from '../../core/goods/downloads';
import { useBoot } from '../shop-context';
import { TextField, Wrong } from './fields';
import type { Draft, Errors } from './form';
import type { Change } from './use-draft';
import { type Uploading, useUpload } from './use-upload';
import { filesField as say } from '../words/goods';

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
    <section className="gfiles" aria-label={say.files}>
      <div className="gopt">
        <h2>{say.files}</h2>
        <span className="note">{say.buyersGetThemAtOnceEach}</span>
      </div>
      <div className="g-4">
        <TextField
          label={say.eachFileAtMost}
          value={limit}
          mode="numeric"
          after={say.times}
          placeholder={say.asOftenAsWished}
          onChange={(v) => set('limit', (d) => ({ ...d, limit: v }))}
        />
        <TextField
          label={say.within}
          value={days}
          mode="numeric"
          after={say.days}
          placeholder={say.forEver}
          onChange={(v) => set('days', (d) => ({ ...d, days: v }))}
        />
      </div>
      <Wrong text={errors.downloads} />
      {!releases.some((r) => r.files.length) && (
        <p className="note">
          <b className="bad">{say.whoeverBuysItNowGetsNothing}</b>
          {say.thereIsNoFileYet}
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
        {releases.length ? say.aNewerRelease : say.aFirstRelease}
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
    (file) => address(site.slug, 'POST files', { query: { name: file.name } }),
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
        <b className="mono">{r.name || say.unnamed}</b>
        <span className="note">
          {r.date}, {r.files.length === 1 ? say.n1File : say.files2(r.files.length)}
          {newest ? say.theOneBuyersMeetFirst : ''}
        </span>
      </summary>
      <div className="g-4">
        <TextField
          label={say.release}
          value={r.name}
          most={40}
          onChange={(name) => put((own) => ({ ...own, name }))}
        />
        <TextField
          label={say.cameOut}
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
                aria-label={say.whoGets(f.name)}
                value={f.only}
                onChange={(e) =>
                  put((own) => ({
                    ...own,
                    files: own.files.map((x) => (x.hash === f.hash ? { ...x, only: e.target.value } : x)),
                  }))
                }
              >
                <option value="">{say.everyBuyer}</option>
                {values.map((v) => (
                  <option key={v} value={v}>
                    {say.only(v)}
                  </option>
                ))}
              </select>
            )}
            <button
              type="button"
              aria-label={say.takeOut(f.name)}
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
          {say.filesUpToGbEach(MAX_FILE / 1e9)}
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
      <span className="lab mt-1">{say.whatIsNewInItShoppers}</span>
      <Suspense fallback={<p className="note">{say.opening}</p>}>
        <RichEditor
          label={say.whatIsNewIn(r.name || say.thisRelease)}
          value={r.notes}
          onChange={(notes) => put((own) => ({ ...own, notes }))}
        />
      </Suspense>
      <button type="button" className="btn sm quiet beet" onClick={onRemove}>
        <X size={12} aria-hidden />
        {say.takeReleaseAway(r.name)}
      </button>
    </details>
  );
}

export function Progress({ now, onStop }: { now: Uploading; onStop: () => void }) {
  const { site } = useBoot();
  return (
    <p className="gprogress" role="status">
      <span className="note">{now.name}</span>
      <progress max={now.all || 1} value={now.done} aria-label={say.sentSoFar(now.name)} />
      <span className="note mono">
        {say.of(sizeWords(now.done, site.locale), sizeWords(now.all, site.locale))}
      </span>
      <button type="button" className="btn sm quiet" onClick={onStop}>
        {say.stop}
      </button>
    </p>
  );
}
