import { useRef, useState } from 'react';
import { Screen } from './screen';
import { connect as say } from '../words/onboarding';

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
  const [how, setHow] = useState<How>('zip');
  const { trouble, progress, start, stop } = useConnect();
  return (
    <Screen
      title={say.connectYourWebsite}
      intro={say.yourPagesAreReadNotChanged}
      aside={[
        [say.yourSite, say.readPageByPage],
        [say.yourMenu, say.keptInItsOrder],
        [say.yourFiles, say.untouched],
      ]}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void start(how, new FormData(e.currentTarget));
        }}
        noValidate
      >
        {trouble && (
          <p className="trouble" role="alert">
            {trouble}
          </p>
        )}
        <Ways how={how} onHow={setHow} hasFolders={folders.length > 0} />
        <WayFields how={how} folders={folders} />
        <div>
          <label className="lab" htmlFor="currency">
            {say.pricesAreIn}
          </label>
          <input type="hidden" name="usual" value={guess} />
          <select id="currency" name="currency" className="in" defaultValue="">
            <option value="">{say.asYourPagesSay(guess)}</option>
            {currencies.map((c) => (
              <option key={c.code} value={c.code}>
                {c.code}, {c.name}
              </option>
            ))}
          </select>
        </div>
        {how !== 'live' && <LiveField hosted={hosted} />}
        {progress ? (
          <Progress of={progress} onStop={stop} />
        ) : (
          <button className="btn leaf" type="submit">
            {say.readTheSite}
          </button>
        )}
      </form>
    </Screen>
  );
}

type How = 'zip' | 'folder' | 'live';

const beginning: Readonly<Record<How, string>> = {
  zip: say.sendingTheZip,
  folder: say.openingTheFolder,
  live: say.askingTheSite,
};

/** Sends the site, and follows what the server tells while it is read. */
function useConnect() {
  const [trouble, setTrouble] = useState('');
  const [progress, setProgress] = useState<Line | null>(null);
  const stop = useRef<AbortController | null>(null);
  const start = async (how: How, form: FormData): Promise<void> => {
    const asked = readForm(how, form);
    if ('missing' in asked) return setTrouble(asked.missing);
    setTrouble('');
    setProgress({ what: beginning[how] });
    stop.current = new AbortController();
    const last = await send(asked, stop.current.signal, setProgress).catch((error: Error) => ({
      problem: error.name === 'AbortError' ? say.stoppedNothingWasKept : say.theOfficeDoesNotAnswerCheck,
    }));
    if ('site' in last && last.site) return location.assign(`/${last.site}/site`);
    setTrouble(last.problem ?? (('title' in last && last.title) || say.thatDidNotWorkNothingWas));
    setProgress(null);
  };
  return { trouble, progress, start, stop: () => stop.current?.abort() };
}

interface Asked {
  readonly query: Readonly<Record<string, string>>;
  readonly zip: File | undefined;
}

/** What was filled in; or what is missing, in a sentence. */
function readForm(how: How, form: FormData): Asked | { readonly missing: string } {
  const settings = {
    currency: String(form.get('currency')),
    usual: String(form.get('usual')),
    live: String(form.get('live') ?? ''),
  };
  if (how === 'folder') {
    const folder = String(form.get('folder') ?? '').trim();
    if (!folder) return { missing: say.enterWhereTheFolderIs };
    return { query: { ...settings, folder }, zip: undefined };
  }
  if (how === 'live') {
    const address = String(form.get('address') ?? '').trim();
    if (!address) return { missing: say.enterTheAddress };
    return { query: { ...settings, address }, zip: undefined };
  }
  const zip = form.get('zip');
  if (!(zip instanceof File) || zip.size === 0) return { missing: say.chooseTheZipOfYourSite };
  return { query: { ...settings, name: zip.name }, zip };
}

async function send({ query, zip }: Asked, signal: AbortSignal, onLine: (line: Line) => void): Promise<Line> {
  const answer = await fetch(`/api/sites?${new URLSearchParams(query)}`, {
    method: 'POST',
    signal,
    headers: { 'content-type': zip ? 'application/zip' : 'application/json' },
    ...(zip && { body: zip }),
  });
  return follow(answer, onLine);
}

function Ways({
  how,
  onHow: setHow,
  hasFolders,
}: {
  how: How;
  onHow: (how: How) => void;
  hasFolders: boolean;
}) {
  const ways: readonly (readonly [How, string, string])[] = [
    ['zip', say.aZipOfIt, say.uploadedHere],
    ['live', say.itsAddress, say.readThereYouPaste],
    ...(hasFolders ? [['folder', say.aFolder, say.onThisMachineWrittenInPlace] as const] : []),
  ];
  return (
    <fieldset className="ways" aria-label={say.whereTheSiteIs}>
      {ways.map(([way, name, note]) => (
        <label key={way}>
          <input type="radio" name="how" checked={how === way} onChange={() => setHow(way)} />
          {name}
          <span className="note">{note}</span>
        </label>
      ))}
    </fieldset>
  );
}

function WayFields({ how, folders }: { how: How; folders: readonly string[] }) {
  if (how === 'zip') return <ZipField />;
  return how === 'folder' ? <FolderField folders={folders} /> : <AddressField />;
}

const AddressField = () => (
  <div>
    <label className="lab" htmlFor="address">
      {say.theSitesAddress}
    </label>
    <div className="in">
      <input id="address" name="address" type="url" placeholder={say.anAddress} autoComplete="url" />
    </div>
    <p className="note mt-1">{say.itsPagesAreReadAsVisitors}</p>
  </div>
);

const LiveField = ({ hosted }: { hosted: boolean }) => (
  <div>
    <label className="lab" htmlFor="live">
      {say.theSitesAddressNow}
    </label>
    <div className="in">
      <input
        id="live"
        name="live"
        type="url"
        placeholder={hosted ? say.emptyTheMakeBelieveHostOf : say.anAddress}
      />
    </div>
  </div>
);

const ZipField = () => (
  <div>
    <label className="lab" htmlFor="zip">
      {say.theZip}
    </label>
    <input id="zip" name="zip" type="file" accept=".zip,application/zip" className="in py-1.5" />
  </div>
);

function FolderField({ folders }: { folders: readonly string[] }) {
  return (
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
  );
}

function Progress({ of: progress, onStop }: { of: Line; onStop: () => void }) {
  return (
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
      <button type="button" className="btn sm mt-2" onClick={onStop}>
        {say.stop}
      </button>
    </div>
  );
}

/** Reads the answer line by line as it comes, and returns the last line. */
async function follow(answer: Response, onLine: (line: Line) => void): Promise<Line> {
  if (!answer.ok || !answer.body) return (await answer.json().catch(() => ({}))) as Line;
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  let last: Line = {};
  for (let chunk = await reader.read(); !chunk.done; chunk = await reader.read()) {
    const lines = (rest + chunk.value).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      last = JSON.parse(line) as Line;
      if (last.what) onLine(last);
    }
  }
  return last;
}
