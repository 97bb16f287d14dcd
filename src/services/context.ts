import type { ProviderName } from '../core/till/pay-kinds';
import type { BlobStore } from '../data/blobs';
import type { Store } from '../data/database';
import type { PerSite, Recent } from './cache';
import type { FolderRoots } from './sites/folders';
import type { Mailer } from './mail/mailer';
import type { Reach } from './outside/reach';

export interface Addresses {
  /** The owner's office; the only origin with a session cookie. */
  readonly office: string;
  /** Public endpoints, widget scripts and ordinary pages; takes no cookies. */
  readonly shop: string;
  /** The draft of one site, an origin of its own by its key. */
  readonly draft: (key: string) => string;
}

/** A payment provider as the payment interface wants it (docs/payment-provider.md). */
export interface PaymentProvider {
  readonly api: string;
  /** Origin of its payment pages. */
  readonly pages: string;
  readonly key: string;
  /** Standard Webhooks secret, "whsec_…". */
  readonly noticeSecret: string;
}

/** A web host that takes a publication as a ZIP over HTTP (docs/web-host.md). */
export interface WebHost {
  readonly endpoint: string;
  readonly key: string;
  /** Where it shows a site of that name. */
  readonly liveUrl: (name: string) => string;
}

export interface Log {
  readonly info: (fields: object, message: string) => void;
  readonly warn: (fields: object, message: string) => void;
  readonly error: (fields: object, message: string) => void;
}

/** What a thread is started with that opens the database and the files itself, and only reads. */
export interface ThreadStart {
  readonly database: string;
  readonly migrations: string;
  readonly blobs: string;
  readonly addresses: { readonly office: string; readonly shop: string };
  /** Providers that are set up, by name, and whether letters can leave. */
  readonly providers: readonly string[];
  readonly sendsLetters: boolean;
}

/** All that the use cases need from outside, handed in. */
export interface Ctx {
  readonly store: Store;
  readonly blobs: BlobStore;
  /** Folders of this machine that may be connected as sites. */
  readonly folders: FolderRoots;
  /** Folder for the journals of publishings that are under way. */
  readonly journals: string;
  readonly addresses: Addresses;
  /** Those that are set up. A shop without any can still be paid by instruction. */
  readonly providers: Readonly<Partial<Record<ProviderName, PaymentProvider>>>;
  /** Key that signs ways to files. */
  readonly signing: string;
  /** Which machines may be asked on an owner's word. */
  readonly reach: Reach;
  readonly host: WebHost | undefined;
  /** Nothing where no mail server is set. */
  readonly mail: Mailer | undefined;
  /** The widgets' script at an address that holds just this version, with its hash for subresource integrity; nothing where none is served. */
  readonly pinned?: { readonly url: string; readonly integrity: string };
  /** Made pictures, the latest in memory; nothing for one that is still to be made. */
  readonly pictures: Recent<string, Buffer | null>;
  /** Folder where made pictures are kept: it may be emptied at any time. */
  readonly made?: string;
  /** What a thread needs that reads for itself; nothing where one command runs alone. */
  readonly threads?: ThreadStart;
  /** What the public reads remember for a moment; nothing where one command runs alone. */
  readonly memo?: PerSite;
  readonly now: () => Date;
  readonly log: Log;
  /** Called after a committed change of what shoppers read, so that prepared answers are dropped. */
  readonly changed: (siteId: string) => void;
}
