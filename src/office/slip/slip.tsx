import { useMutation, useQuery } from '@tanstack/react-query';
import { ChevronsLeft, ChevronsRight, Undo2 } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { toast } from 'sonner';
import type { LiveLine, Slip as SlipData, WaitingLine } from '../../services/sites/slip';
import { address } from '../../contract/address';
import { call, refresh, type ViewName, viewKey } from '../api';
import { ChecksLine } from '../checks/checks-count';
import { useBoot } from '../shop-context';
import { day, when } from '../ui/when';
import { slip as say } from '../words/slip';

const everything: readonly ViewName[] = [
  'hand-out',
  'status',
  'letters',
  'look',
  'slip',
  'overview',
  'bench',
  'goods',
  'categories',
  'reviews',
  'till',
  'checks',
  'checks-count',
];
const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** The memory of the office: what waits to be published, and what went live at once. */
export function Slip({ folded, onFold, above }: { folded: boolean; onFold: () => void; above?: ReactNode }) {
  const { site } = useBoot();
  const { data } = useQuery({ queryKey: viewKey('slip'), queryFn: () => call(site.slug, 'GET slip') });
  const waiting = data?.waiting.length ?? 0;
  if (folded) {
    return (
      <aside className="slipcol" aria-label={say.slip}>
        <button
          type="button"
          className="slip-tab"
          onClick={onFold}
          aria-label={say.openTheSlipWaiting(count(waiting, 'change'))}
        >
          <ChevronsLeft size={14} aria-hidden />
          {say.slip2}
          <span>{waiting}</span>
        </button>
      </aside>
    );
  }
  return (
    <aside className="slipcol" aria-label={say.slip}>
      {above}
      <div className="slot" />
      <div className="slip">
        <div className="slip-h">
          <h2>{say.slip}</h2>
          <span>{data && (waiting ? say.waitsForPublish : say.nothingWaiting)}</span>
          <button type="button" className="fold" onClick={onFold} aria-label={say.foldTheSlip}>
            <ChevronsRight size={15} />
          </button>
        </div>
        <div className="dash" />
        {data && <SlipBody data={data} />}
      </div>
      {data && data.past.length > 0 && (
        <section className="past">
          <h3>{say.earlierSlips}</h3>
          <ul>
            {data.past.map((p) => (
              <li key={p.id}>
                <span className="mono">{when(p.at)}</span>
                <b className="mono">{count(p.changes, 'change')}</b>
                <span>{p.pages > 0 && say.written(count(p.pages, 'file'))}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </aside>
  );
}

/** Publishes what waits, and tells where it went. */
function usePublish() {
  const { site } = useBoot();
  const toList = () => location.assign(`/${site.slug}/site?lens=publishing`);
  const toZip = () => location.assign(address(site.slug, 'GET site.zip', {}));
  return useMutation({
    mutationFn: () => call(site.slug, 'POST publish'),
    onSuccess: (done) => {
      refresh(...everything);
      const changes = count(done.changes, 'change');
      const what = done.pages ? `${changes} on ${count(done.pages, 'file')}` : changes;
      if (done.delivered === 'paste')
        toast.success(say.liveNowPasteIt(what), {
          duration: 60_000,
          action: { label: say.whatToPaste, onClick: toList },
        });
      else if (done.byHand)
        toast.warning(say.readyToPutUpNothingIs(what), {
          duration: 60_000,
          action: { label: say.downloadTheZip, onClick: toZip },
        });
      else if (done.delivered === 'folder') toast.success(say.publishedWrittenIntoTheFolderOf(what));
      else toast.success(say.publishedAt(what, done.liveUrl));
      for (const l of done.lost.slice(0, 3))
        toast.warning(say.leftOutBecause(l.page, l.why), { duration: 12_000 });
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
}

/** Which pages come with the shop, or go with it. */
function shopPagesWords({ shopPages, builtPages }: SlipData): string {
  const { length } = builtPages;
  const all = builtPages.join(', ');
  if (shopPages === 'added')
    return say.withItInYourOwnHeader(length === 1 ? say.comesOnePage : say.comePages(length), all);
  return say.withItBuiltForTheShop(
    length === 1 ? say.goesThePageThatWas : say.goThePagesThatWere(length),
    all,
  );
}

function SlipBody({ data }: { data: SlipData }) {
  const { site } = useBoot();
  const undo = useMutation({
    mutationFn: (line: { placement: string } | { live: number }) =>
      call(site.slug, 'POST slip', { body: line }),
    onSuccess: () => refresh(...everything),
    onError: (e) => toast.error(e.message),
  });
  const publish = usePublish();
  const waiting = data.waiting.length;
  return (
    <>
      {waiting === 0 && data.live.length === 0 && <p className="slip-none">{say.theSiteAndTheShopAgree}</p>}
      {waiting > 0 && (
        <WaitingLines lines={data.waiting} onUndo={(placement) => undo.mutate({ placement })} />
      )}
      {data.shopPages !== 'same' && <p className="slip-none mt-2">{shopPagesWords(data)}</p>}
      {waiting > 0 && (
        <>
          <div className="dash" />
          <p className="slip-t">
            <span>{count(waiting, 'change')}</span>
            <span>{count(data.pages, 'page')}</span>
          </p>
          <ChecksLine />
        </>
      )}
      {(waiting > 0 || data.live.length === 0) && (
        <button
          type="button"
          className="publish"
          disabled={waiting === 0 || publish.isPending}
          aria-busy={publish.isPending}
          onClick={() => publish.mutate()}
        >
          {publish.isPending && say.publishing}
          {!publish.isPending && (waiting ? say.publish(count(waiting, 'change')) : say.nothingToPublish)}
        </button>
      )}
      {data.live.length > 0 && (
        <>
          {waiting > 0 && <div className="dash mt-4" />}
          <h3>
            {say.alreadyLive}
            <span>{say.n7DaysToUndo}</span>
          </h3>
          <LiveLines lines={data.live} onUndo={(live) => undo.mutate({ live })} />
        </>
      )}
      <div role="status" className="sr-only">
        {publish.isSuccess ? say.published : ''}
      </div>
    </>
  );
}

function grouped<T extends { readonly where: string }>(lines: readonly T[]): [string, T[]][] {
  const groups = new Map<string, T[]>();
  for (const line of lines) groups.set(line.where, [...(groups.get(line.where) ?? []), line]);
  return [...groups];
}

function WaitingLines({ lines, onUndo }: { lines: readonly WaitingLine[]; onUndo: (id: string) => void }) {
  return (
    <dl>
      {grouped(lines).map(([where, group]) => (
        <div key={where}>
          <dt>{where}</dt>
          {group.map((l) => (
            <dd key={l.id}>
              <span>{l.what}</span>
              <UndoButton what={`${where}: ${l.what}`} onClick={() => onUndo(l.id)} />
            </dd>
          ))}
        </div>
      ))}
    </dl>
  );
}

function LiveLines({ lines, onUndo }: { lines: readonly LiveLine[]; onUndo: (id: number) => void }) {
  return (
    <dl>
      {grouped(lines).map(([where, group]) => (
        <div key={where}>
          <dt>{where}</dt>
          {group.map((l) => (
            <dd key={l.id} title={`${day(l.at)}, ${when(l.at)}`}>
              <span>
                {l.what}
                {l.to !== undefined && (
                  <>
                    {' '}
                    <del>{l.from}</del> → <b>{l.to}</b>
                  </>
                )}
              </span>
              <UndoButton what={`${where}: ${l.what}`} onClick={() => onUndo(l.id)} />
            </dd>
          ))}
        </div>
      ))}
    </dl>
  );
}

/** Pressed once: an undo that runs twice would undo something else. */
function UndoButton({ what, onClick }: { what: string; onClick: () => void }) {
  const [pressed, setPressed] = useState(false);
  const press = () => {
    setPressed(true);
    onClick();
    setTimeout(() => setPressed(false), 1500);
  };
  return (
    <button
      type="button"
      className="undo"
      disabled={pressed}
      onClick={press}
      aria-label={say.undo(what)}
      title={say.undo2}
    >
      <Undo2 size={13} />
    </button>
  );
}
