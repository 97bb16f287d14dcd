import { type FormEvent, useRef, useState } from 'react';
import { Door } from './doors';
import { connect as say } from '../words/door';

interface Line {
  readonly what?: string;
  readonly done?: number;
  readonly all?: number;
  readonly site?: string;
  readonly pages?: number;
  readonly problem?: string;
  readonly title?: string;
}

interface Props {
  readonly currencies: readonly { readonly code: string; readonly name: string }[];
  readonly guess: string;
  /** There is a make-believe host to publish to, so the address may stay empty. */
  readonly hosted: boolean;
  /** Folders of this machine that sites may lie in; without any, a folder is no way in. */
  readonly folders: readonly string[];
}

/** Connects a website: a ZIP or a folder, read with its progress shown, stopped at will. */
export function Connect({ currencies, guess, hosted, folders }: Props) {
  const [how, setHow] = useState<'zip' | 'folder'>('zip');
  const [trouble, setTrouble] = useState('');
  const [progress, setProgress] = useState<Line | null>(null);
  const stop = useRef<AbortController | null>(null);

  const go = async (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    const file = form.get('zip') as File | null;
    const folder = String(form.get('folder') ?? '').trim();
    if (how === 'zip' && !file?.size) return setTrouble(say.chooseTheZipOfYourSite);
    if (how === 'folder' && !folder) return setTrouble(say.enterWhereTheFolderIs);
    setTrouble('');
    setProgress({ what: how === 'zip' ? say.sendingTheZip : say.openingTheFolder });
    stop.current = new AbortController();
    const query = new URLSearchParams({
      currency: String(form.get('currency')),
      live: String(form.get('live') ?? ''),
      ...(how === 'folder' ? { folder } : { name: file?.name ?? '' }),
    });
    try {
      const answer = await fetch(`/api/sites?${query}`, {
        method: 'POST',
        signal: stop.current.signal,
        headers: { 'content-type': how === 'zip' ? 'application/zip' : 'application/json' },
        ...(how === 'zip' && file && { body: file }),
      });
      const last = await follow(answer, setProgress);
      if (last.site) return location.assign(`/${last.site}/site`);
      setTrouble(last.problem ?? last.title ?? say.thatDidNotWorkNothingWas);
    } catch (error) {
      setTrouble(
        (error as Error).name === 'AbortError' ? say.stoppedNothingWasKept : say.theOfficeDoesNotAnswerCheck,
      );
    }
    setProgress(null);
  };

  return (
    <Door
      title={say.connectYourWebsite}
      intro={say.yourPagesAreReadNotChanged}
      aside={[
        [say.yourSite, say.readPageByPage],
        [say.yourMenu, say.keptInItsOrder],
        [say.yourFiles, say.untouched],
      ]}
    >
      <form onSubmit={(e) => void go(e)} noValidate>
        {trouble && (
          <p className="trouble" role="alert">
            {trouble}
          </p>
        )}
        {folders.length > 0 && (
          <fieldset className="ways" aria-label={say.whereTheSiteIs}>
            <label>
              <input type="radio" name="how" checked={how === 'zip'} onChange={() => setHow('zip')} />
              {say.aZipOfIt}
              <span className="note">{say.uploadedHere}</span>
            </label>
            <label>
              <input type="radio" name="how" checked={how === 'folder'} onChange={() => setHow('folder')} />
              {say.aFolder}
              <span className="note">{say.onThisMachineWrittenInPlace}</span>
            </label>
          </fieldset>
        )}
        {how === 'zip' ? (
          <div>
            <label className="lab" htmlFor="zip">
              {say.theZip}
            </label>
            <input id="zip" name="zip" type="file" accept=".zip,application/zip" className="in py-1.5" />
          </div>
        ) : (
          <div>
            <label className="lab" htmlFor="folder">
              {say.theFoldersWholePath}
            </label>
            <div className="in mono">
              <input
                id="folder"
                name="folder"
                placeholder={say.mySite(folders[0])}
                autoComplete="off"
                spellCheck={false}
              />
            </div>
            <p className="note mt-1">{say.itLiesIn(folders.join(' or '))}</p>
          </div>
        )}
        <div>
          <label className="lab" htmlFor="currency">
            {say.pricesAreIn}
          </label>
          <select id="currency" name="currency" className="in" defaultValue={guess}>
            {currencies.map((c) => (
              <option key={c.code} value={c.code}>
                {c.code}, {c.name}
              </option>
            ))}
          </select>
        </div>
        <div>
          <label className="lab" htmlFor="live">
            {say.theSitesAddressNow}
          </label>
          <div className="in">
            <input
              id="live"
              name="live"
              type="url"
              placeholder={hosted ? say.emptyTheMakeBelieveHostOf : 'https://www.example.org/'}
            />
          </div>
        </div>
        {progress ? (
          <div className="progress" role="status">
            <p className="flex justify-between">
              <b>{progress.what}</b>
              <span className="mono">
                {progress.done ? `${progress.done}${progress.all ? ` of ${progress.all}` : ''}` : ''}
              </span>
            </p>
            <progress
              max={progress.all || undefined}
              value={progress.all ? progress.done : undefined}
              aria-label={progress.what}
            />
            <button type="button" className="btn sm mt-2" onClick={() => stop.current?.abort()}>
              {say.stop}
            </button>
          </div>
        ) : (
          <button className="btn leaf" type="submit">
            {say.readTheSite}
          </button>
        )}
      </form>
    </Door>
  );
}

/** Reads the answer line by line as it comes, and returns the last line. */
async function follow(answer: Response, tell: (line: Line) => void): Promise<Line> {
  if (!answer.ok || !answer.body) return (await answer.json().catch(() => ({}))) as Line;
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  let last: Line = {};
  for (let chunk = await reader.read(); !chunk.done; chunk = await reader.read()) {
    const lines = (rest + chunk.value).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      last = JSON.parse(line) as Line;
      if (last.what) tell(last);
    }
  }
  return last;
}
