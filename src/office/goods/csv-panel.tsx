import { useMutation } from '@tanstack/react-query';
import { Download, Upload } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { CsvFate, CsvReport } from '../../services/goods/csv';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';

const words: Readonly<Record<CsvFate['fate'], string>> = {
  new: 'new',
  changed: 'changed',
  same: 'as it is',
  refused: 'refused',
};

/** Goods out to a table and in from one: every row's fate is seen before anything is taken in, and it is all or nothing. */
export function CsvPanel({ onClose }: { onClose: () => void }) {
  const { site } = useBoot();
  const [file, setFile] = useState<File | null>(null);
  const [report, setReport] = useState<CsvReport | null>(null);
  const [leaveOut, setLeaveOut] = useState(false);
  const send = (file_: File, mapping: readonly (string | null)[] | undefined, take: boolean) =>
    call<CsvReport>(
      `/api/${site.slug}/goods/csv?${new URLSearchParams({ ...(mapping && { mapping: JSON.stringify(mapping) }), ...(take && { take: leaveOut ? 'but-refused' : 'all' }) })}`,
      'POST',
      file_,
    );
  const dry = useMutation({
    mutationFn: ({ f, mapping }: { f: File; mapping?: readonly (string | null)[] }) =>
      send(f, mapping, false),
    onSuccess: setReport,
    onError: (e) => {
      setReport(null);
      toast.error(e.message, { duration: 9000 });
    },
  });
  const take = useMutation({
    mutationFn: () => send(file as File, report?.mapping, true),
    onSuccess: ({ counts }) => {
      refresh('goods', 'slip', 'bench');
      toast.success(`Taken in: ${counts.new} new, ${counts.changed} changed. The slip has the undo.`);
      onClose();
    },
    onError: (e) => toast.error(e.message, { duration: 9000 }),
  });
  const choose = (f: File | undefined) => {
    if (!f) return;
    setFile(f);
    setLeaveOut(false);
    dry.mutate({ f });
  };
  const map = (n: number, to: string) =>
    file &&
    report &&
    dry.mutate({
      f: file,
      mapping: report.mapping.map((m, i) => (i === n ? to || null : m === to ? null : m)),
    });
  const { counts } = report ?? {};
  return (
    <section className="bulk csv" aria-label="CSV in and out">
      <div className="bulk-row">
        <a className="btn" href={`/api/${site.slug}/goods/csv`}>
          <Download size={13} aria-hidden />
          Goods as CSV
        </a>
        <a className="btn" href={`/api/${site.slug}/goods/csv?pictures`}>
          <Download size={13} aria-hidden />
          with pictures, as ZIP
        </a>
        <label className="btn">
          <Upload size={13} aria-hidden />
          {file ? file.name : 'Bring a table in'}
          <input
            className="sr-only"
            type="file"
            accept=".csv,.txt,.zip,text/csv"
            onChange={(e) => {
              choose(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </label>
        {dry.isPending && (
          <span className="note" role="status">
            Reading the table…
          </span>
        )}
        <button type="button" className="btn quiet ml-auto" onClick={onClose}>
          Close
        </button>
      </div>
      {report && counts && (
        <>
          <div className="csv-map">
            {report.heads.map((head, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two columns may have the same head
              <label key={n}>
                <span className="lab">{head || `column ${n + 1}`}</span>
                <select
                  className="in"
                  value={report.mapping[n] ?? ''}
                  onChange={(e) => map(n, e.target.value)}
                >
                  <option value="">left alone</option>
                  {report.columns.map((c) => (
                    <option key={c} value={c}>
                      {c}
                    </option>
                  ))}
                </select>
              </label>
            ))}
          </div>
          <p role="status">
            <b>
              {counts.new} new, {counts.changed} changed, {counts.same} as they are
              {counts.refused ? <span className="bad">, {counts.refused} refused</span> : ''}.
            </b>{' '}
            Nothing is taken in yet.
          </p>
          <ul className="csv-fates">
            {report.fates
              .filter((f) => f.fate !== 'same')
              .map((f) => (
                <li key={f.lines[0]}>
                  <span className="mono">
                    line {f.lines.length > 1 ? `${f.lines[0]}–${f.lines.at(-1)}` : f.lines[0]}
                  </span>
                  <span>{f.name || 'without a name'}</span>
                  <b className={f.fate === 'refused' ? 'bad' : ''}>{words[f.fate]}</b>
                  <span className="note">{f.what}</span>
                </li>
              ))}
          </ul>
          <div className="bulk-row">
            {counts.refused > 0 && (
              <label className="tick">
                <input type="checkbox" checked={leaveOut} onChange={(e) => setLeaveOut(e.target.checked)} />
                Leave the refused ones out
              </label>
            )}
            <button
              type="button"
              className="btn leaf"
              disabled={
                take.isPending || counts.new + counts.changed === 0 || (counts.refused > 0 && !leaveOut)
              }
              onClick={() => take.mutate()}
            >
              {take.isPending ? 'Taking in' : `Take ${counts.new + counts.changed} in`}
            </button>
          </div>
        </>
      )}
    </section>
  );
}
