import type { PagePath } from '../../../core/site/paths';
import {
  filePathOf,
  isOnHost,
  type LiveScope,
  mayBePage,
  pagePathOf,
  samePlace,
  scopeOf,
} from '../../../core/site/live/address';
import { referredBy } from '../../../core/site/live/referred';
import { parsePageFile } from '../../../core/site/read-page';
import { addressesIn } from '../../../core/site/served';
import { limits, limitText } from '../../../core/limits';
import { messageOf } from '../../../core/result';
import { sha256 } from '../../../data/blobs';
import { type Answered, askFor } from '../../outside/ask';
import type { Reach } from '../../outside/reach';
import { conflict, invalid, isRefusal, unreachable } from '../../errors';
import { asUtf8 } from './charset';
import { readRobots, type Robots } from './robots';
import { pagesOfSiteMaps } from './site-map';
import { Turns } from './turns';

/** What a server said of a file so that one can ask whether it changed (RFC 9110, 8.8). */
export interface Validator {
  readonly etag?: string | undefined;
  readonly modified?: string | undefined;
}

/** A reading before this one: what has not changed is not sent again. */
export interface Before {
  readonly validators: Readonly<Record<string, Validator>>;
  readonly file: (path: PagePath) => Promise<Buffer | undefined>;
}

export interface LiveReading {
  /** Where the site is in the end: its own scheme and host, and the folder that was named. */
  readonly url: string;
  /** The page that visitors meet first. */
  readonly front: PagePath;
  /** Addresses of pages on their host, "/about", by path. */
  readonly addresses: ReadonlyMap<PagePath, string>;
  /** Paths that links lead to and that the server says are not there. */
  readonly gone: ReadonlySet<string>;
  readonly validators: Readonly<Record<string, Validator>>;
  /** What the owner should know, in sentences. */
  readonly notes: readonly string[];
}

export interface LiveOptions {
  readonly onFile: (path: PagePath, bytes: Buffer) => Promise<void>;
  /** Told after each page and file; may stop by throwing. */
  readonly onProgress?: (done: number, known: number) => void;
  readonly before?: Before | undefined;
  readonly now?: () => number;
}

/** Sentences of one kind that are told; the rest is counted. */
const TOLD = 5;

/**
 * Reads a site from its live address: the page that is named, what its lists of addresses and its links lead to, and what dresses these
 * pages, a few at a time and as robots.txt asks. Nothing is written there.
 * @throws Refusal when the first page cannot be had or read, or the site asks programs to stay away
 */
export async function readLive(reach: Reach, address: string, options: LiveOptions): Promise<LiveReading> {
  const stop = new AbortController();
  const named = startOf(address);
  try {
    const first = await askFor(reach, named.href, pageQuestion(stop.signal));
    const landed = new URL(first.url);
    if (first.status !== 200)
      throw unreachable(`That page answers ${first.status}. Check the address, and that the page is public.`);
    // A site may have moved to another name; the folder is the one that was named.
    const home = new URL(named.pathname, landed.origin);
    const robots = await readRobots(reach, landed, stop.signal);
    if (!robots.allows(landed))
      throw conflict(
        `The robots.txt of ${landed.host} asks programs to stay away from that page. If the site is yours, add two lines there: "User-agent: GreenStall" and "Allow: /".`,
      );
    return await new LiveReader(reach, scopeOf(home), robots, options, stop.signal).read(home, first);
  } finally {
    stop.abort();
  }
}

function startOf(address: string): URL {
  if (!URL.canParse(address) || !/^https?:/i.test(address))
    throw invalid('Enter the whole address of the site, with https:// in front.');
  const url = new URL(address);
  if (url.username || url.password) throw invalid('Enter the address without name and password.');
  url.hash = '';
  return url;
}

const pageQuestion = (signal: AbortSignal) => ({
  accept: 'text/html, application/xhtml+xml;q=0.9, */*;q=0.1',
  limit: 'visitedPage' as const,
  tooLarge: 'That page was not read.',
  signal,
});

type Left = 'robots' | 'query' | 'silent' | 'script' | 'copy' | 'large';

/** One reading under way. */
class LiveReader {
  readonly #addresses = new Map<PagePath, string>();
  readonly #gone = new Set<string>();
  readonly #validators: Record<string, Validator> = {};
  readonly #left = new Map<Left, string[]>();
  readonly #seen = new Set<string>();
  /** What was kept, by its hash: a server may give one page at a thousand addresses. */
  readonly #same = new Map<string, string>();
  readonly #turns: Turns;
  readonly #until: number;
  #files = 0;
  #bytes = 0;
  #stopped = '';

  constructor(
    private readonly reach: Reach,
    private readonly scope: LiveScope,
    private readonly robots: Robots,
    private readonly options: LiveOptions,
    private readonly signal: AbortSignal,
  ) {
    this.#turns = new Turns(robots.pause);
    this.#until = this.#now() + limits.liveTime.most * 1000;
  }

  #now(): number {
    return (this.options.now ?? Date.now)();
  }

  async read(home: URL, first: Answered): Promise<LiveReading> {
    const landed = new URL(first.url);
    this.#seen.add(placeKey(landed));
    this.#seen.add(placeKey(home));
    const front = await this.#keepPage(landed, first);
    if (!front)
      throw invalid(
        `What ${landed.href} answers is no web page${first.type ? ` but ${first.type}` : ''}. Name the address of the site's front page.`,
      );
    const mayAsk = (url: URL) => isOnHost(this.scope, url) && this.robots.allows(url);
    for (const page of await pagesOfSiteMaps(this.reach, this.robots.siteMaps, landed, mayAsk, this.signal))
      if (URL.canParse(page)) this.#wantPage(new URL(page));
    await this.#turns.run(() => this.#tell());
    return {
      url: new URL(this.scope.folder, landed.origin).href,
      front,
      addresses: this.#addresses,
      gone: this.#gone,
      validators: this.#validators,
      notes: this.#notes(),
    };
  }

  #tell(): void {
    this.options.onProgress?.(this.#files, this.#files + this.#turns.waiting);
  }

  /** Why nothing more is begun; '' while it goes on. */
  #isFull(): string {
    if (this.#now() > this.#until) return limitText('liveTime');
    if (this.#addresses.size >= limits.livePages.most) return limitText('livePages');
    if (this.#files >= limits.liveFiles.most) return limitText('liveFiles');
    return this.#bytes > limits.liveSite.most ? limitText('liveSite') : '';
  }

  #wantPage(url: URL): void {
    if (!mayBePage(this.scope, url)) return;
    if (url.search) this.#leave('query', url.href);
    else if (this.#isKnown(url)) return;
    else if (this.robots.allows(url)) this.#turns.add('page', () => this.#whileRoom(() => this.#page(url)));
    else this.#leave('robots', url.pathname);
  }

  #wantFile(url: URL): void {
    if (!isOnHost(this.scope, url)) return;
    url.search = '';
    if (this.#isKnown(url) || !filePathOf(url) || !this.robots.allows(url)) return;
    this.#turns.add('file', () => this.#whileRoom(() => this.#file(url)));
  }

  /** Whether an address was seen before; it was from now on. */
  #isKnown(url: URL): boolean {
    const key = placeKey(url);
    const known = this.#seen.has(key);
    this.#seen.add(key);
    return known;
  }

  async #whileRoom(work: () => Promise<void>): Promise<void> {
    this.#stopped ||= this.#isFull();
    if (this.#stopped) return this.#turns.clear();
    await work();
  }

  async #page(url: URL): Promise<void> {
    const path = pagePathOf(url);
    if (!path) return;
    const answer = await this.#answerOf(url, path, pageQuestion(this.signal));
    if (!answer) return;
    const { status } = answer;
    if (status === 404 || status === 410) return void this.#gone.add(path);
    if (status !== 200) return this.#leave('silent', `${url.pathname} answers ${status}`);
    const landed = new URL(answer.url);
    if (
      placeKey(landed) !== placeKey(url) &&
      (!mayBePage(this.scope, landed) || landed.search || this.#isKnown(landed))
    )
      return;
    await this.#keepPage(landed, answer);
  }

  /** Keeps what was answered, if it is a page, and asks for what it leads to. */
  async #keepPage(at: URL, answer: Answered): Promise<PagePath | undefined> {
    const path = pagePathOf(at);
    if (!path || !/^(text\/html|application\/xhtml\+xml|)$/.test(answer.type)) return undefined;
    const bytes = asUtf8(answer.bytes, answer.charset);
    const read = parsePageFile(path, bytes, undefined, { places: false });
    if ('problem' in read) return void this.#leave('large', read.problem);
    const { links, files, canonical, drawnByScript } = referredBy(read.page, at);
    if (canonical && isCopyOf(at, canonical, this.scope)) {
      this.#wantPage(canonical);
      if (pagePathOf(canonical) !== path) return void this.#leave('copy', at.pathname);
    }
    // Its links are not followed either: from each address they would lead to others, for ever.
    if (this.#isSame(bytes, at)) return undefined;
    for (const link of links) this.#wantPage(link);
    for (const file of files) this.#wantFile(file);
    if (drawnByScript) this.#leave('script', at.pathname);
    this.#addresses.set(path, at.pathname);
    await this.#keep(path, bytes, answer);
    return path;
  }

  /** The very page that was kept already, at another address. */
  #isSame(bytes: Buffer, at: URL): boolean {
    const hash = sha256(bytes);
    const before = this.#same.get(hash);
    if (before === undefined) this.#same.set(hash, at.pathname);
    else this.#leave('copy', at.pathname);
    return before !== undefined;
  }

  async #file(url: URL): Promise<void> {
    const path = filePathOf(url);
    if (!path || this.#addresses.has(path)) return;
    const answer = await this.#answerOf(url, path, {
      accept: '*/*',
      limit: 'liveFile',
      tooLarge: `${url.pathname} was left out.`,
      signal: this.signal,
    });
    // A server that answers with a page for what is not there says so in no other way.
    if (answer?.status !== 200 || answer.type === 'text/html') return;
    if (answer.type === 'text/css' || path.endsWith('.css'))
      for (const address of addressesIn(answer.bytes.toString('utf8')))
        if (URL.canParse(address, answer.url)) this.#wantFile(new URL(address, answer.url));
    await this.#keep(path, answer.bytes, answer);
  }

  async #keep(path: PagePath, bytes: Buffer, { headers }: Answered): Promise<void> {
    this.#files++;
    this.#bytes += bytes.length;
    if (headers.etag || headers['last-modified'])
      this.#validators[path] = { etag: headers.etag, modified: headers['last-modified'] };
    await this.options.onFile(path, bytes);
  }

  /** What is answered at an address; what was kept of it before, where it has not changed. Nothing, and a note, where it cannot be had. */
  async #answerOf(
    url: URL,
    path: PagePath,
    question: Parameters<typeof askFor>[2],
  ): Promise<Answered | undefined> {
    const known = this.options.before?.validators[path];
    const kept = known && (await this.options.before?.file(path));
    const asked = { ...question, headers: kept ? sinceThen(known) : {} };
    try {
      const answer = await this.#patiently(() => askFor(this.reach, url.href, asked));
      if (answer.status !== 304 || !kept) return answer;
      return {
        ...answer,
        status: 200,
        type: answer.type || (this.#isPage(path) ? 'text/html' : ''),
        bytes: kept,
        charset: '',
      };
    } catch (error) {
      if (!isRefusal(error)) throw error;
      return void this.#leave('silent', `${url.pathname}: ${messageOf(error)}`);
    }
  }

  #isPage = (path: PagePath): boolean => /\.(html?|xhtml|shtml?)$/i.test(path);

  /** A server that asks for patience gets it once. */
  async #patiently(ask: () => Promise<Answered>): Promise<Answered> {
    const answer = await ask();
    if (answer.status !== 429 && answer.status !== 503) return answer;
    await this.#turns.pauseFor(Number(answer.headers['retry-after'] ?? 2));
    return ask();
  }

  #leave(why: Left, what: string): void {
    const all = this.#left.get(why) ?? [];
    if (!all.includes(what)) all.push(what);
    this.#left.set(why, all);
  }

  #notes(): string[] {
    const told = [...this.#left].map(([why, what]) => noteOf[why](what.length, list(what)));
    return this.#stopped
      ? [
          `Reading stopped at ${this.#stopped}: ${this.#addresses.size} pages were read, and the site has more. What was read can be used as it is.`,
          ...told,
        ]
      : told;
  }
}

const list = (what: readonly string[]): string =>
  what.slice(0, TOLD).join(', ') + (what.length > TOLD ? ` and ${what.length - TOLD} more` : '');
const pages = (n: number): string => (n === 1 ? 'One page' : `${n} pages`);

const were = (n: number): string => (n === 1 ? 'was' : 'were');

const noteOf: Readonly<Record<Left, (n: number, what: string) => string>> = {
  robots: (n, what) =>
    `${pages(n)} ${were(n)} left out, because the site's robots.txt asks programs to stay away from them: ${what}.`,
  query: (n, what) =>
    `${n === 1 ? 'One address' : `${n} addresses`} with "?" ${were(n)} not read as pages of their own: ${what}.`,
  silent: (n, what) => `${pages(n)} or files could not be read: ${what}.`,
  script: (n, what) =>
    `${pages(n)} ${n === 1 ? 'is' : 'are'} drawn by a script in the visitor's browser, so next to nothing stands in what the server sends, and Green Stall sees no places there: ${what}. Code can still be pasted into them.`,
  copy: (n, what) =>
    `${pages(n)} ${n === 1 ? 'stands' : 'stand'} at a second address as well, and ${were(n)} read once: ${what}.`,
  large: (n, what) => `${pages(n)} could not be read as pages: ${what}`,
};

const placeKey = (url: URL): string => `${url.pathname}${url.search}`;

/** A page that calls itself by another address of the same place. One that names a wholly other page is believed to be itself. */
const isCopyOf = (at: URL, canonical: URL, scope: LiveScope): boolean =>
  isOnHost(scope, canonical) &&
  !canonical.search &&
  canonical.pathname !== at.pathname &&
  samePlace(at, canonical);

const sinceThen = ({ etag, modified }: Validator): Record<string, string> => ({
  ...(etag && { 'if-none-match': etag }),
  ...(modified && { 'if-modified-since': modified }),
});
