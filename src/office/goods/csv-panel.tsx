import { useMutation } from '@tanstack/react-query';
import { Download, Upload } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { CsvFate, CsvReport } from '../../services/goods/csv';
import { address } from '../../contract/address';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';
import { csvPanel as say } from '../words/goods';

const words: Readonly<Record<CsvFate['fate'], string>> = {
  new: 'new',
  changed: 'changed',
  same: say.asItIs,
  refused: 'refused',
};

type Mapping = readonly (string | null)[];

/** What the columns are, as a query says it. */
const columnsOf = (mapping: Mapping | undefined) => (mapping ? { mapping: JSON.stringify(mapping) } : {});

/** Goods out to a table and in from one: every row's fate is seen before anything is taken in, and it is all or nothing. */
export function CsvPanel({ onClose }: { onClose: () => void }) {
  const { site } = useBoot();
  const [file, setFile] = useState<File | null>(null);
  const [report, setReport] = useState<CsvReport | null>(null);
  const [leaveOut, setLeaveOut] = useState(false);
  const dry = useMutation({
    mutationFn: ({ f, mapping }: { f: File; mapping?: Mapping }) =>
      call(site.slug, 'POST goods/csv', { query: columnsOf(mapping), body: f }),
    onSuccess: setReport,
    onError: (e) => {
      setReport(null);
      toast.error(e.message, { duration: 9000 });
    },
  });
  const take = useMutation({
    mutationFn: (body: File) => {
      const refused = leaveOut ? 'left-out' : 'stop';
      return call(site.slug, 'POST goods/csv/take', {
        query: { ...columnsOf(report?.mapping), refused },
        body,
      });
    },
    onSuccess: ({ counts }) => {
      refresh('goods', 'slip', 'bench');
      toast.success(say.takenInNewChangedTheSlip(counts.new, counts.changed));
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
      // A field is filled from one column alone.
      mapping: report.mapping.map((m) => (m === to ? null : m)).with(n, to || null),
    });
  return (
    <section className="bulk csv" aria-label={say.csvInAndOut}>
      <div className="bulk-row">
        <a className="btn" href={address(site.slug, 'GET goods/csv', {})}>
          <Download size={13} aria-hidden />
          {say.goodsAsCsv}
        </a>
        <a className="btn" href={address(site.slug, 'GET goods/csv', { query: { pictures: '1' } })}>
          <Download size={13} aria-hidden />
          {say.withPicturesAsZip}
        </a>
        <label className="btn">
          <Upload size={13} aria-hidden />
          {file ? file.name : say.bringATableIn}
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
            {say.readingTheTable}
          </span>
        )}
        <button type="button" className="btn quiet ml-auto" onClick={onClose}>
          {say.close}
        </button>
      </div>
      {report && (
        <Report
          report={report}
          leaveOut={leaveOut}
          onLeaveOut={setLeaveOut}
          isTaking={take.isPending}
          onMap={map}
          onTake={() => file && take.mutate(file)}
        />
      )}
    </section>
  );
}

/** What a table would do: its columns, its rows, and the press that takes it in. */
function Report({
  report,
  leaveOut,
  onLeaveOut,
  isTaking,
  onMap,
  onTake,
}: {
  report: CsvReport;
  leaveOut: boolean;
  onLeaveOut: (on: boolean) => void;
  isTaking: boolean;
  onMap: (column: number, to: string) => void;
  onTake: () => void;
}) {
  const { counts } = report;
  const some = counts.new + counts.changed;
  return (
    <>
      <Columns report={report} onMap={onMap} />
      <p role="status">
        <b>
          {say.newChangedAsTheyAre(counts.new, counts.changed, counts.same)}
          {counts.refused ? <span className="bad">{say.refused(counts.refused)}</span> : ''}.
        </b>{' '}
        {say.nothingIsTakenInYet}
      </p>
      <Fates fates={report.fates} />
      <div className="bulk-row">
        {counts.refused > 0 && (
          <label className="tick">
            <input type="checkbox" checked={leaveOut} onChange={(e) => onLeaveOut(e.target.checked)} />
            {say.leaveTheRefusedOnesOut}
          </label>
        )}
        <button
          type="button"
          className="btn leaf"
          disabled={isTaking || some === 0 || (counts.refused > 0 && !leaveOut)}
          onClick={onTake}
        >
          {isTaking ? say.takingIn : say.takeIn(some)}
        </button>
      </div>
    </>
  );
}

function Columns({ report, onMap }: { report: CsvReport; onMap: (column: number, to: string) => void }) {
  return (
    <div className="csv-map">
      {report.heads.map((head, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two columns may have the same head
        <label key={n}>
          <span className="lab">{head || say.column(n + 1)}</span>
          <select className="in" value={report.mapping[n] ?? ''} onChange={(e) => onMap(n, e.target.value)}>
            <option value="">{say.leftAlone}</option>
            {report.columns.map((c) => (
              <option key={c} value={c}>
                {c}
              </option>
            ))}
          </select>
        </label>
      ))}
    </div>
  );
}

function Fates({ fates }: { fates: CsvReport['fates'] }) {
  return (
    <ul className="csv-fates">
      {fates
        .filter((f) => f.fate !== 'same')
        .map((f) => (
          <li key={f.lines[0]}>
            <span className="mono">
              {say.line}
              {f.lines.length > 1 ? `${f.lines[0]}–${f.lines.at(-1)}` : f.lines[0]}
            </span>
            <span>{f.name || say.withoutAName}</span>
            <b className={f.fate === 'refused' ? 'bad' : ''}>{words[f.fate]}</b>
            <span className="note">{f.what}</span>
          </li>
        ))}
    </ul>
  );
}
