import { useState } from 'react';
import { mendAll as say } from '../words/checks';
import { useMend } from './use-checks';

type Listed = { readonly key: string; readonly n: number; readonly label: string; readonly name: string };

/** All mends that Green Stall makes by itself, told before they are made. */
export function MendAll({ mends }: { mends: readonly Listed[] }) {
  const [open, setOpen] = useState(false);
  const mend = useMend();
  const said = [...new Set(mends.map((m) => `${m.name}: ${m.label}`))];
  return (
    <div className="ck-all">
      <button type="button" className="btn" aria-expanded={open} onClick={() => setOpen(!open)}>
        {say.mendAll(mends.length)}
      </button>
      {open && (
        <div className="ck-preview">
          <h2>{say.willBeDone}</h2>
          <ul>
            {said.slice(0, 40).map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <p className="note">{say.eachIsALine}</p>
          <button
            type="button"
            className="btn leaf"
            disabled={mend.isPending}
            onClick={() =>
              mend.mutate(
                mends.map(({ key, n, label }) => ({ key, n, label })),
                { onSettled: () => setOpen(false) },
              )
            }
          >
            {say.mendThem}
          </button>
          <button type="button" className="btn quiet" onClick={() => setOpen(false)}>
            {say.notNow}
          </button>
        </div>
      )}
    </div>
  );
}
