import { useMutation, useQuery } from '@tanstack/react-query';
import { type ChangeEvent, lazy, Suspense, useState } from 'react';
import { toast } from 'sonner';
import type { NewerReport } from '../../services/sites/newer';
import type { SiteOverview } from '../../services/sites/overview';
import type { Proof } from '../../services/publishing/publish';
import { address } from '../../contract/address';
import { call, refresh, type ViewName, viewKey } from '../api';
import { benchHref } from '../places';
import { useBoot } from '../shop-context';
import { when } from '../ui/when';
import { LiveAddressForm } from './live-address-form';
import { HandOut } from './hand-out';
import { HandedOutList } from './handed-out-list';
import { publishingLens as say } from '../words/site';

const FileDiff = lazy(() => import('./file-diff'));
const everything: readonly ViewName[] = [
  'slip',
  'overview',
  'bench',
  'pitches',
  'menu',
  'coverage',
  'diff',
  'hand-out',
  'goods',
  'categories',
];

/** What publishing writes, page by page in the page's own text; what was live before; a newer version of the site; and the way out. */
export function PublishingLens({ data }: { data: SiteOverview }) {
  return (
    <div className="lens publishing">
      {data.pasted && <HandOut />}
      {/* What comes late stands last: nothing that is pressed moves away under the pointer. */}
      <div className="side-by">
        {data.byHand && data.isLive && !data.pasted && <PutUpSelf />}
        <Newer data={data} />
        {data.movable && <LiveAddressForm liveUrl={data.liveUrl} />}
        <Leave pasted={data.pasted} />
        <History />
      </div>
      {!data.pasted && <HandedOutList />}
      {!data.pasted && <Waiting />}
    </div>
  );
}

const verbs = { added: 'new', changed: 'changed', removed: 'goes' } as const;

function Waiting() {
  const { site } = useBoot();
  const { data, error } = useQuery({
    queryKey: viewKey('diff'),
    queryFn: () => call(site.slug, 'GET publications'),
    staleTime: 0,
  });
  const [open, setOpen] = useState<string | null>(null);
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.computingEveryPage}</p>;
  const shown =
    open ?? data.files.find((f) => f.isPage && f.what === 'changed')?.path ?? data.files[0]?.path ?? null;
  return (
    <section aria-label={say.whatPublishingWrites}>
      <h1 className="sum">
        {data.files.length === 0 ? (
          say.theLiveSiteIsAsThe
        ) : (
          <>
            <b>{data.files.length}</b> {say.wouldBeWritten(data.files.length === 1 ? say.file : say.files)}
            <i />
            <b>{data.files.filter((f) => f.what === 'added').length}</b>
            {say.ofThemNew}
          </>
        )}
      </h1>
      {data.lost.length > 0 && (
        <ul className="lost-list">
          {data.lost.slice(0, 20).map((l) => (
            <li key={l.page + l.why}>
              <a href={benchHref(site.slug, l.page)}>{l.page}</a>: {l.why}
            </li>
          ))}
        </ul>
      )}
      {data.files.length > 0 && (
        <div className="filediff">
          <ul aria-label={say.files2}>
            {data.files.map((f) => (
              <li key={f.path}>
                <button type="button" aria-pressed={f.path === shown} onClick={() => setOpen(f.path)}>
                  <span>{f.path}</span>
                  <em className={f.what}>{verbs[f.what]}</em>
                </button>
              </li>
            ))}
          </ul>
          <div>
            {shown && (
              <Suspense fallback={<p className="empty note">{say.layingBothSideBySide}</p>}>
                <FileDiff path={shown} slug={site.slug} />
              </Suspense>
            )}
          </div>
        </div>
      )}
    </section>
  );
}

/** A site that nobody but its owner can write to: the ZIP, and whether it was put up. */
function PutUpSelf() {
  const { site } = useBoot();
  const look = useMutation({
    mutationFn: () => call(site.slug, 'POST put-up'),
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  const seen = look.data;
  return (
    <section aria-label={say.putItUp}>
      <h2>{say.putItUp}</h2>
      <p className="note">{say.thisSiteCameAsAZip}</p>
      <p className="flex flex-wrap gap-2 mt-2">
        <a className="btn leaf" href={address(site.slug, 'GET site.zip', {})}>
          {say.downloadTheZip}
        </a>
        <button type="button" className="btn" disabled={look.isPending} onClick={() => look.mutate()}>
          {look.isPending ? say.looking : say.hasItArrived}
        </button>
      </p>
      {seen && (
        <div role="status">
          <p className={seen.other.length ? 'bad' : 'good'}>
            {seen.other.length === 0
              ? say.itHasArrivedLookedAtLive(
                  seen.looked === 1 ? say.thePage : `all ${seen.looked} pages`,
                  seen.looked === 1 ? 'is' : 'are',
                )
              : say.notAllOfItOfPages(seen.same, seen.looked)}
          </p>
          <ul className="note">
            {seen.other.map((o) => (
              <li key={o.address}>
                <span className="mono">{o.address}</span> {o.message}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

/** Nothing of a site that its owner pastes into is written by us. */
const filesOf = (n: number): string => (n > 0 ? ` ${n} ${n === 1 ? say.file : say.files},` : '');

function History() {
  const { site } = useBoot();
  const { data } = useQuery({ queryKey: viewKey('slip'), queryFn: () => call(site.slug, 'GET slip') });
  const back = useMutation({
    mutationFn: (id: string) => call(site.slug, 'POST publications/:id', { id }),
    onSuccess: (done) => {
      refresh(...everything);
      toast.success(say.backAsItWasWritten(done.pages, done.pages === 1 ? 'file' : 'files'));
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  return (
    <section aria-label={say.history}>
      <h2>{say.history}</h2>
      {!data?.past.length && <p className="note">{say.nothingWasPublishedYet}</p>}
      <ul className="hist">
        {data?.past.map((p) => (
          <li key={p.id}>
            <span className="mono">{when(p.at)}</span>
            <span>
              {say.by(p.changes, p.changes === 1 ? say.change : say.changes, filesOf(p.pages), p.by)}
              {p.otherPages && say.withYourOwnPagesOfThen}
            </span>
            {p.current ? (
              <b>{say.liveNow}</b>
            ) : (
              <button
                type="button"
                className="btn sm"
                disabled={back.isPending}
                onClick={() => back.mutate(p.id)}
              >
                {say.goBackToIt}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

const readAgainWords = ({ pasted }: SiteOverview): string =>
  pasted ? say.readTheSiteAgain : say.readTheFolderAgain;

function Newer({ data }: { data: SiteOverview }) {
  const { site } = useBoot();
  const [report, setReport] = useState<NewerReport | null>(null);
  const bring = useMutation({
    mutationFn: (file: File | undefined) => {
      if (!file) return call(site.slug, 'POST newer', {});
      return call(site.slug, 'POST newer', { query: { name: file.name }, body: file });
    },
    onSuccess: (r) => {
      setReport(r);
      refresh(...everything);
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  return (
    <section aria-label={say.aNewerVersionOfYourSite}>
      <h2>{say.aNewerVersionOfYourSite}</h2>
      <p className="note">{say.changedYourOwnPagesBringThem}</p>
      {data.readsAgain ? (
        <button
          type="button"
          className="btn sm mt-2 mr-1.5"
          disabled={bring.isPending}
          onClick={() => bring.mutate(undefined)}
        >
          {bring.isPending ? say.reading : readAgainWords(data)}
        </button>
      ) : null}
      {!data.pasted && (
        <label className="btn sm mt-2 newer-zip">
          {bring.isPending ? say.reading : say.chooseAZipOfIt}
          <input
            type="file"
            accept=".zip,application/zip"
            aria-label={say.zipOfTheNewerVersion}
            disabled={bring.isPending}
            onChange={(e: ChangeEvent<HTMLInputElement>) => {
              const [file] = e.target.files ?? [];
              if (file) bring.mutate(file);
              e.target.value = '';
            }}
          />
        </label>
      )}
      {report && <Report report={report} />}
    </section>
  );
}

function Report({ report: r }: { report: NewerReport }) {
  const { site } = useBoot();
  const line = (n: number, what: string, pages: readonly string[]) =>
    n > 0 && (
      <li>
        <b>{n}</b> {n === 1 ? say.page : say.pages} {what}: {pages.slice(0, 6).join(', ')}
        {n > 6 && say.andMore(n - 6)}
      </li>
    );
  return (
    <div className="report" role="status">
      <ul>
        {line(r.pages.changed.length, 'changed', r.pages.changed)}
        {line(r.pages.added.length, 'new', r.pages.added)}
        {line(r.pages.removed.length, 'gone', r.pages.removed)}
        {r.pages.renamed.map((x) => (
          <li key={x.from}>{say.isNow(x.from, x.to)}</li>
        ))}
        <li>
          <b>{r.found}</b> {say.foundAgain(r.found === 1 ? say.widget : say.widgets)}
          {r.moved.length > 0 && say.besideSomethingElse(r.moved.length)}
        </li>
        {r.lost.map((l) => (
          <li key={l.id + l.page} className="bad">
            {say.on}{' '}
            <a className="underline" href={benchHref(site.slug, l.page)}>
              {l.page}
            </a>
            , {l.label}: {l.why}.{l.best && say.likeliestIs(l.best.label)}
          </li>
        ))}
      </ul>
      <p className="note">
        {say.theSlipHasTheUndo(r.lost.length ? say.openThesePagesOnTheBench : say.nothingNeedsYourWord)}
      </p>
    </div>
  );
}

function Leave({ pasted }: { pasted: boolean }) {
  const { site } = useBoot();
  const [sure, setSure] = useState(false);
  const [proof, setProof] = useState<Proof | null>(null);
  const leave = useMutation({
    mutationFn: () => call(site.slug, 'DELETE publications'),
    onSuccess: (p) => {
      setProof(p);
      setSure(false);
      refresh(...everything);
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  return (
    <section aria-label={say.leaveWithoutATrace}>
      <h2>{say.leaveWithoutATrace}</h2>
      {proof ? (
        <AfterLeaving proof={proof} pasted={pasted} />
      ) : (
        <>
          <p className="note">{pasted ? say.leavingEndsIt : say.takesEveryWidgetShopPageAnd}</p>
          {sure ? (
            <div className="flex gap-2 mt-2">
              <button
                type="button"
                className="btn sm beet"
                disabled={leave.isPending}
                onClick={() => leave.mutate()}
              >
                {leave.isPending ? say.takingOut : say.takeItAllOutNow}
              </button>
              <button type="button" className="btn sm quiet" onClick={() => setSure(false)}>
                {say.keepIt}
              </button>
            </div>
          ) : (
            <button type="button" className="btn sm mt-2" onClick={() => setSure(true)}>
              {say.leave}
            </button>
          )}
        </>
      )}
    </section>
  );
}

/** Files prove that nothing is left; code that was pasted is looked for until it is gone. */
const AfterLeaving = ({ proof, pasted }: { proof: Proof; pasted: boolean }) =>
  pasted ? <p role="status">{say.takenOutHere}</p> : <ProofView proof={proof} />;

function ProofView({ proof }: { proof: Proof }) {
  return (
    <div role="status">
      <p>
        <b>{say.of(proof.same, proof.all)}</b> {say.filesAreByteForByteWhat}
        {proof.removed.length > 0 && <>{say.andTheWeHadAddedAre(proof.removed.length)}</>}.
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys */}
      <section className="proof" tabIndex={0} aria-label={say.proof}>
        <table>
          <thead>
            <tr>
              <th scope="col">{say.file2}</th>
              <th scope="col">{say.asYouGaveItSha256}</th>
              <th scope="col">{say.liveNow2}</th>
            </tr>
          </thead>
          <tbody>
            {proof.files.map((f) => (
              <tr key={f.path} className={f.was === f.now ? '' : 'bad'}>
                <th scope="row">{f.path}</th>
                <td title={f.was}>{f.was.slice(0, 16)}…</td>
                <td title={f.now}>{f.now ? `${f.now.slice(0, 16)}…` : say.gone}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}
