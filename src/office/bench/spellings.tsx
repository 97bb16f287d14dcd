import { Check, Copy } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { type Spelling, spellings } from '../../core/placement/spelling';
import type { BenchView, PlacedView } from '../../services/publishing/bench';
import { call, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { when } from '../ui/when';
import { spellings as say } from '../words/bench';

/** One placement, however it is written: which spelling stands on the page, and each of them to copy and carry elsewhere. */
export function Spellings({
  placed,
  view,
  onSpell,
}: {
  placed: PlacedView;
  view: BenchView;
  onSpell: (s: Spelling) => void;
}) {
  const [shown, setShown] = useState<Spelling>(placed.spelling);
  const spelled = view.spellings.find((s) => s.name === shown);
  const text = placed.written[shown];
  const visible = shown === 'shortcode' ? plain(text) : text;
  return (
    <details className="f spell">
      <summary className="lab">
        {say.howItIsWritten}
        <em>{say.as(spellings[placed.spelling].short)}</em>
      </summary>
      <div className="tabs" role="tablist" aria-label={say.howItIsWritten2}>
        {view.spellings.map((s) => (
          <button
            key={s.name}
            type="button"
            role="tab"
            aria-selected={s.name === shown}
            onClick={() => setShown(s.name)}
          >
            {spellings[s.name].short}
          </button>
        ))}
      </div>
      <code className="written">{visible}</code>
      <p className="note">{spelled?.hint}</p>
      <div className="flex flex-wrap gap-2 mt-1">
        <CopyButton text={visible} what={say.copy} />
        {shown !== placed.spelling && (
          <button type="button" className="btn sm" onClick={() => onSpell(shown)}>
            {say.writeItSoOnThePage}
          </button>
        )}
      </div>
      {shown === 'link' && <Qr href={/href="([^"]+)"/.exec(text)?.[1]?.replace(/&amp;/g, '&') ?? ''} />}
      <HandOut placed={placed} view={view} spelling={shown} text={visible} />
    </details>
  );
}

/** The text an owner pastes: without the span that carries it on our own pages. */
const plain = (html: string): string =>
  html
    .replace(/^<span[^>]*>|<\/span>$/g, '')
    .replace(/&quot;/g, '"')
    .replace(/&#39;/g, "'")
    .replace(/&amp;/g, '&');

export function CopyButton({ text, what }: { text: string; what: string }) {
  const [done, setDone] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(text).catch(() => {});
    setDone(true);
    setTimeout(() => setDone(false), 1600);
  };
  return (
    <button type="button" className="btn sm" onClick={() => void copy()}>
      {done ? <Check size={13} aria-hidden /> : <Copy size={13} aria-hidden />}
      <span aria-live="polite">{done ? say.copied : what}</span>
    </button>
  );
}

/** A printed code that leads to the link. */
function Qr({ href }: { href: string }) {
  const [svg, setSvg] = useState('');
  useEffect(() => {
    if (href)
      void import('qrcode')
        .then((q) => q.default.toString(href, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' }))
        .then(setSvg);
  }, [href]);
  if (!svg) return null;
  const url = `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;
  return (
    <p className="qr">
      <img src={url} alt={say.codeThatLeadsTo(href)} width={116} height={116} />
      <a className="btn sm" href={url} download="code.svg">
        {say.saveTheCode}
      </a>
    </p>
  );
}

interface Arrived {
  readonly found: boolean;
  readonly message: string;
}

/** Where to paste it, step by step; then a look at the page whether it arrived. */
function HandOut({
  placed,
  view,
  spelling,
  text,
}: {
  placed: PlacedView;
  view: BenchView;
  spelling: Spelling;
  text: string;
}) {
  const { site } = useBoot();
  const [where, setWhere] = useState(
    `${site.liveUrl.startsWith('http') ? site.liveUrl.replace(/\/$/, '') : ''}${view.page.address}`,
  );
  const remembered = useQuery({
    queryKey: viewKey('handed-out'),
    queryFn: () => call(site.slug, 'GET arrived'),
  });
  const before = remembered.data?.filter((h) => h.placement === placed.id && h.spelling === spelling) ?? [];
  const [told, setTold] = useState<Arrived | null>(null);
  const [looking, setLooking] = useState(false);
  const needsScript = spelling === 'element' || spelling === 'shortcode' || spelling === 'frame';
  const look = async () => {
    setLooking(true);
    setTold(
      await call(site.slug, 'POST arrived', {
        body: {
          url: where,
          placement: placed.id,
          kind: placed.kind,
          spelling,
        },
      }).catch((e: Error) => ({ found: false, message: e.message })),
    );
    setLooking(false);
    refresh('handed-out');
  };
  const firstStep: Partial<Record<typeof spelling, string>> = {
    shortcode: say.openThePageInItsEditor,
    ssi: say.letTheServerPassStallOn,
    link: say.openTheMailOrPost,
  };
  return (
    <details className="handout">
      <summary>{say.toAPageThatGreenStall}</summary>
      <ol>
        <li>{firstStep[spelling] ?? say.openThePageInItsEditor2}</li>
        <li>
          {say.pasteThisThere}
          <CopyButton text={text} what={say.copyIt} />
        </li>
        {needsScript && (
          <li>
            {spelling === 'frame' ? say.whereThePageMayHaveA : say.pasteThisOnceOnThePage}{' '}
            <CopyButton text={view.script} what={say.copyTheScript} />
            {view.sealedScript && (
              <>
                {' '}
                <CopyButton text={view.sealedScript} what={say.copyItWithItsHash} />
              </>
            )}
          </li>
        )}
        <li>{say.saveThePageThereThenHave}</li>
      </ol>
      <div className="in mono">
        <input aria-label={say.addressOfThePage} value={where} onChange={(e) => setWhere(e.target.value)} />
      </div>
      <button type="button" className="btn sm mt-1" disabled={looking || !where} onClick={() => void look()}>
        {looking ? say.looking : say.hasItArrived}
      </button>
      {told && (
        <p className={told.found ? 'note good' : 'field-error'} role="status">
          {told.message}
        </p>
      )}
      {!told && before.length > 0 && (
        <ul className="note">
          {before.map((h) => (
            <li key={h.url}>
              {when(h.lookedAt)}: <span className="mono">{h.url}</span>{' '}
              <span className={h.found ? 'good' : 'bad'}>{h.message}</span>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
}
