import { type Entry, fromBuffer, open as openFile, type ZipFile } from 'yauzl';
import { type PagePath, parsePath } from '../../core/site/paths';
import { invalid } from '../errors';
import { limits } from '../../core/limits';
import { tooLarge, tooMany, tooMuch } from './site-limits';

export type OnFile = (path: PagePath, bytes: Buffer) => Promise<void>;

/** Names that archivers add and no site needs. */
const litter = /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\.git\/)/;
const SYMLINK = 0xa000;
const FILE_TYPE = 0xf000;

/**
 * Unpacks a ZIP entry by entry. Hostile until proven otherwise: names that leave the site, links, entries larger than
 * they claim and archives that unpack without end are refused as a whole, with a sentence that says what to do.
 * @throws Refusal; the caller keeps nothing of what was read before.
 */
export async function readZip(from: Buffer | { readonly file: string }, onFile: OnFile): Promise<void> {
  const zip = await open(from);
  let total = 0;
  try {
    if (zip.entryCount > limits.siteFiles.most) throw tooMany();
    for (let entry = await next(zip); entry; entry = await next(zip)) {
      const path = checkEntry(entry);
      if (!path) continue;
      total += entry.uncompressedSize;
      if (entry.uncompressedSize > limits.siteFile.most) throw tooLarge(path);
      if (total > limits.siteUnpacked.most) throw tooMuch();
      await onFile(path, await unpack(zip, entry));
    }
  } finally {
    zip.close();
  }
}

const open = (from: Buffer | { readonly file: string }): Promise<ZipFile> =>
  new Promise((resolve, reject) => {
    const options = { lazyEntries: true, validateEntrySizes: true, strictFileNames: false } as const;
    const opened = (error: Error | null, zip?: ZipFile) => {
      if (error || !zip) reject(broken(error?.message ?? 'empty'));
      else resolve(zip);
    };
    if (Buffer.isBuffer(from)) fromBuffer(from, options, opened);
    else openFile(from.file, { ...options, autoClose: true }, opened);
  });

const broken = (why: string) => {
  const name = /^(invalid relative path|absolute path|invalid characters in fileName): (.*)$/s.exec(why);
  if (name)
    return invalid(
      `The ZIP names a file outside the site ("${name[2]}"). Pack the site again from inside its own folder.`,
    );
  return invalid(
    `This file cannot be read as a ZIP (${why}). Pack the site's folder again and choose the new file.`,
  );
};

function next(zip: ZipFile): Promise<Entry | undefined> {
  return new Promise((resolve, reject) => {
    const done = (act: () => void) => {
      zip.removeAllListeners('entry').removeAllListeners('end').removeAllListeners('error');
      act();
    };
    zip.once('entry', (entry: Entry) => done(() => resolve(entry)));
    zip.once('end', () => done(() => resolve(undefined)));
    zip.once('error', (error: Error) => done(() => reject(broken(error.message))));
    zip.readEntry();
  });
}

function checkEntry(entry: Entry): PagePath | undefined {
  if (entry.fileName.endsWith('/') || litter.test(entry.fileName)) return undefined;
  if (((entry.externalFileAttributes >>> 16) & FILE_TYPE) === SYMLINK) {
    throw invalid(
      `"${entry.fileName}" in the ZIP is a link, not a file. Put the file itself in its place and pack the site again.`,
    );
  }
  if (entry.isEncrypted())
    throw invalid('The ZIP is locked with a password. Pack the site again without one.');
  const path = parsePath(entry.fileName);
  if (!path.ok) throw invalid(`The ZIP cannot be used: ${path.error}.`);
  return path.value;
}

function unpack(zip: ZipFile, entry: Entry): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => {
      if (error || !stream) return reject(broken(error?.message ?? 'unreadable entry'));
      const chunks: Buffer[] = [];
      stream.on('data', (c: Buffer) => chunks.push(c));
      stream.on('end', () => resolve(Buffer.concat(chunks)));
      stream.on('error', (e: Error) => reject(broken(e.message)));
    });
  });
}
