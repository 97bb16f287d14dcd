import type { Change } from '../core/change';
import type { ProductInput, Product } from '../core/goods/product';
import type { BulkEdit } from '../core/goods/bulk';
import type { KeptFile } from '../core/goods/downloads';
import type { Written } from '../core/letters/render';
import type { Found } from '../core/look/found/found';
import type { SourceName } from '../core/look/found/sources';
import type { Decision } from '../core/look/plan';
import type { MenuChange } from '../core/placement/menu-change';
import type { NewPlacement, Placement } from '../core/placement/placement';
import type { Pitch } from '../core/site/pitch';
import type { SeenPage } from '../core/checks/seen';
import type { Step } from '../core/checks/ways/ways';
import type { SetUp, ShopAddress } from '../core/site/set-up';
import type { TillRules } from '../core/till/rules';
import type { BulkPreview } from '../services/goods/bulk';
import type { CategoryAsked, CategoryLine } from '../services/goods/category-tree';
import type { CsvFate, CsvReport } from '../services/goods/csv';
import type { Movement, ProductPatch } from '../services/goods/goods';
import type { GoodsLine } from '../services/goods/lines';
import type { ReviewDecision, ReviewLine } from '../services/goods/reviews';
import type { ChecksCount, ChecksView } from '../services/checks/checks';
import type { MendAsked, MendReport } from '../services/checks/mend';
import type { LetterAsked, LettersView } from '../services/letters/preview';
import type { CartSpot } from '../services/sites/cart-spot';
import type { Added, SellingGuess } from '../services/sites/add-selling';
import type { BenchView } from '../services/publishing/bench';
import type { Coverage } from '../services/publishing/coverage';
import type { ChangedFile } from '../services/publishing/diff';
import type { Arrival } from '../core/placement/hand-out/arrival';
import type { HandedOut, Question } from '../services/sites/hand-out';
import type { LookView } from '../services/sites/look-view';
import type { LookSample } from '../services/storefront/look-sample';
import type { MenuView } from '../services/sites/menus';
import type { NewerReport } from '../services/sites/newer';
import type { SiteOverview } from '../services/sites/overview';
import type { Proof, Published } from '../services/publishing/publish';
import type { HostOffers } from '../core/placement/hand-out/pasted';
import type { HandOutView } from '../services/publishing/hand-out-list';
import type { PutUp } from '../services/publishing/put-up';
import type { Slip } from '../services/sites/slip';
import type { Basics, BasicsChange } from '../services/till/basics';
import type { OrderAsked } from '../services/till/fulfil';
import type { ListAsked, OrderList } from '../services/till/order-list';
import type { OrderView } from '../services/till/read-order';
import type { RulesChange } from '../services/rules/rules';
import type { TillStatus } from '../services/till/till-status';
import type { SurplusAsked } from '../services/till/surplus';
import type { TakingsAsked, TakingsView } from '../services/till/takings';
import type { TillView, TriedCart, TryAsked } from '../services/till/try-cart';

/**
 * What the office may ask of its endpoints: method and path below `/api/SITE/`, what is sent, what is answered. Types alone.
 * The office's calls and the endpoints in `pages/api/[site]/` are both held to it: a wrong path, a missing field or another
 * answer does not compile. Bodies are types for the sender only: whoever gets one parses it.
 */
export interface Endpoints {
  'GET overview': { answer: SiteOverview };
  'GET coverage': { answer: Coverage };
  'GET status': { answer: TillStatus };

  'GET bench': { query: { page: string }; answer: BenchView };
  'GET bench/pitches': { query: { page: string }; answer: Pitch[] };
  'POST placements': { body: NewPlacement; answer: Placement };
  'PATCH placements/:id': { body: PlacementChange; answer: Placement };
  'POST placements/change': { body: Change<Placement>; answer: { done: true } };
  'DELETE placements/:id': { answer: Placement };
  'GET menu': { answer: MenuView };
  'PUT menu': { body: readonly MenuChange[]; answer: MenuView };
  'GET selling': { answer: SellingGuess };
  'POST selling': {
    body: { setUp: SetUp; shop?: Partial<ShopAddress> };
    answer: Added;
  };
  'POST selling/cart': { body: CartSpot; answer: { done: true } };
  'PATCH selling': { body: { slug?: string; name?: string; front?: boolean }; answer: ShopAddress | null };

  'GET arrived': { answer: HandedOut[] };
  'POST arrived': { body: Question; answer: Arrival };
  'POST arrived/all': { answer: HandedOut[] };
  'DELETE arrived': { body: Question; answer: HandedOut[] };

  'GET hand-out': { answer: HandOutView };
  'PUT hand-out': { body: { offers?: HostOffers; shopPage?: string }; answer: HandOutView };
  'POST hand-out/look': { body: { id?: string }; answer: HandOutView };

  'GET look': { answer: LookView };
  'POST look': { body: Change<Decision>; answer: LookView };
  'PUT look/measured': { body: { readonly snapshot: string; readonly found: Found }; answer: LookView };
  'POST look/drift': {
    body: { do: 'follow' | 'keep'; sources: readonly SourceName[] | 'all' };
    answer: LookView;
  };
  'GET look/sample': { answer: LookSample };

  'GET checks': { answer: ChecksView };
  'POST checks': { body: { live: boolean }; answer: ChecksView };
  'DELETE checks': { answer: Nothing };
  'GET checks/count': { answer: ChecksCount };
  'POST checks/mend': { body: { mends: readonly MendAsked[] }; answer: MendReport };
  'POST checks/leave': { body: { keys: readonly string[]; word: string | null }; answer: Nothing };
  'GET checks/way': { query: { page: string; goal: string }; answer: readonly Step[] };
  'PUT checks/seen': { body: readonly SeenPage[]; answer: Nothing };

  'GET slip': { answer: Slip };
  'POST slip': { body: { placement: string } | { live: number }; answer: Nothing };
  'POST publish': { answer: Published };
  'POST put-up': { answer: PutUp };
  'PUT live-address': { body: { liveUrl: string }; answer: { liveUrl: string } };
  'POST newer': { query?: { name: string }; body?: Blob; answer: NewerReport };
  'GET publications': {
    answer: { files: ChangedFile[]; lost: readonly { readonly page: string; readonly why: string }[] };
  };
  'DELETE publications': { answer: Proof };
  'GET publications/page': { query: { path: string }; answer: { before: string; after: string } };
  'POST publications/:id': { answer: Published };
  'GET site.zip': { answer: Response };

  'GET goods': { answer: GoodsLine[] };
  'POST goods': { body: ProductInput; answer: Product };
  'GET goods/:id': { answer: Product };
  'PUT goods/:id': { body: ProductPatch; answer: Product };
  'DELETE goods/:id': { answer: Nothing };
  'POST goods/:id/copy': { answer: Product };
  'POST goods/:id/move': { body: { before: string | null }; answer: Nothing };
  'GET goods/:id/movements': { answer: Movement[] };
  'POST goods/:id/preview': { body: ProductInput; answer: { token: string } };
  'POST goods/bulk': { body: { ids: readonly string[]; edit: BulkEdit }; answer: { changed: number } };
  'POST goods/bulk/preview': { body: { ids: readonly string[]; edit: BulkEdit }; answer: BulkPreview };
  'POST goods/samples': { answer: { added: number } };
  'GET goods/csv': { query?: { pictures: string }; answer: Response };
  'POST goods/csv': { query?: { mapping?: string }; body: Blob; answer: CsvReport };
  'POST goods/csv/take': {
    query: { mapping?: string; refused: 'stop' | 'left-out' };
    body: Blob;
    answer: { counts: Readonly<Record<CsvFate['fate'], number>> };
  };
  'GET categories': { answer: CategoryLine[] };
  'POST categories': { body: CategoryAsked; answer: Nothing };
  'GET reviews': { answer: ReviewLine[] };
  'PUT reviews/:id': { body: ReviewDecision; answer: Required<ReviewDecision> };
  'POST pictures': { body: Blob; answer: { hash: string } };
  'POST files': { query: { name: string; as?: 'film' }; body: Blob; answer: KeptFile };

  'GET till': { answer: TillView };
  'PUT till': { body: RulesChange; answer: TillRules };
  'PATCH till': { body: BasicsChange; answer: Basics };
  'POST till/try': { body: TryAsked; answer: TriedCart };
  'GET letters': { answer: LettersView };
  'POST letters/preview': {
    body: LetterAsked;
    answer: Written & { readonly unknown: readonly string[] };
  };

  'GET orders': { query?: Texts<ListAsked>; answer: OrderList };
  'DELETE orders': { answer: { gone: number } };
  'GET orders/csv': { query?: Texts<ListAsked>; answer: Response };
  'GET orders/:id': { answer: OrderView };
  'POST orders/:id': { body: OrderAsked; answer: { done: true } };
  'POST orders/:id/surplus': { body: SurplusAsked; answer: { state: 'returning' | 'returned' } };
  'POST orders/:id/downloads': { answer: Nothing };
  'GET orders/:id/policy': { query: { version: string }; answer: Response };
  'PUT subscriptions/:id': { body: { state: 'running' | 'stopped' }; answer: Nothing };
  'GET takings': { query?: TakingsAsked; answer: TakingsView };
  'GET takings/csv': { query?: TakingsAsked; answer: Response };
  'GET papers/:id': { query?: { pdf: string }; answer: Response };
  'GET papers/slips': {
    query: Texts<ListAsked> & { ids?: string; pdf?: string };
    answer: Response;
  };
}

/** It was done; there is nothing to tell of it. */
// biome-ignore lint/suspicious/noConfusingVoidType: what a use case returns that only does something
type Nothing = void;

type PlacementChange = Partial<Pick<Placement, 'settings' | 'reach' | 'spelling' | 'pitch' | 'pitchLabel'>>;

/** As a query says it: all is text, and what is usual may be left out. */
type Texts<T> = { readonly [K in keyof T]?: string };

export type Route = keyof Endpoints;

/** Names that a path leaves open: of "goods/:id/move" it is "id". */
type Open<Path> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Open<Rest>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never;
type PathOf<R extends Route> = R extends `${string} ${infer Path}` ? Path : never;

export type Params<R extends Route> = Readonly<Record<Open<PathOf<R>>, string>>;
export type Query<R extends Route> = Endpoints[R] extends { query?: infer Q } ? NonNullable<Q> : never;
export type Answer<R extends Route> = Endpoints[R]['answer'];

/** What is sent with a call: what its path leaves open, its query, its body. */
export type Input<R extends Route> = Params<R> &
  Sent<Pick<Endpoints[R], keyof Endpoints[R] & ('query' | 'body')>>;

/** Whoever sends something need not give it away. */
type Sent<T> = T extends Blob ? T : T extends object ? { readonly [K in keyof T]: Sent<T[K]> } : T;

/** What is left of an answer after it was JSON: moments are text. */
export type Wire<T> = T extends Date
  ? string
  : T extends string | number | boolean | null | undefined
    ? T
    : T extends object
      ? { [K in keyof T]: Wire<T[K]> }
      : T;
