import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { HostOffers } from '../../core/placement/hand-out/pasted';
import type { HandOutView, PieceLine } from '../../services/publishing/hand-out-list';
import { call, Problem, queries, viewKey } from '../api';
import { CopyButton } from '../bench/spellings';
import { useBoot } from '../shop-context';
import { UrlField } from '../ui/url-field';
import { when } from '../ui/when';
import { handOut as say } from '../words/site';

/** Everything that is pasted into a site which only its owner can write: what the host takes, the shop's page, and piece by piece. */
export function HandOut() {
  const { data, error } = useHandOut();
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return null;
  return (
    <section className="hand-out" aria-label={say.whatYouPaste}>
      <Head data={data} />
      <div className="hand-out-asks">
        <Offers offers={data.offers} />
        {(data.offers.blocks || data.offers.foot) && <ShopPage data={data} />}
      </div>
      {data.published ? <Pieces data={data} /> : <p className="note">{say.publishFirst}</p>}
      {data.out.length > 0 && <TakeOut data={data} />}
    </section>
  );
}

const useHandOut = () => {
  const { site } = useBoot();
  return useQuery({ queryKey: viewKey('hand-out'), queryFn: () => call(site.slug, 'GET hand-out') });
};

const keep = (view: HandOutView) => queries.setQueryData(viewKey('hand-out'), view);

/** Looks on the live site for one piece, or for all. */
function useLook() {
  const { site } = useBoot();
  return useMutation({
    mutationFn: (id?: string) =>
      call(site.slug, 'POST hand-out/look', { body: id === undefined ? {} : { id } }),
    onSuccess: keep,
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
}

function Head({ data }: { data: HandOutView }) {
  const look = useLook();
  const { pieces, out } = data;
  const there = pieces.filter((p) => p.state === 'there').length;
  const asks = pieces.length > 0 ? say.haveAllArrived : say.lookAgain;
  return (
    <div className="col-h">
      <h2>{say.whatYouPaste}</h2>
      {pieces.length > 0 && (
        <span className={there === pieces.length ? 'good' : 'note'} role="status">
          {there === pieces.length ? say.allOfItIsThere : say.ofAreThere(there, pieces.length)}
        </span>
      )}
      {pieces.length + out.length > 0 && (
        <button
          type="button"
          className="btn sm"
          disabled={look.isPending}
          onClick={() => look.mutate(undefined)}
        >
          {look.isPending ? say.looking : asks}
        </button>
      )}
    </div>
  );
}

function Offers({ offers }: { offers: HostOffers }) {
  const { site } = useBoot();
  const set = useMutation({
    mutationFn: (to: HostOffers) => call(site.slug, 'PUT hand-out', { body: { offers: to } }),
    onSuccess: keep,
    onError: (e) => toast.error(e.message),
  });
  const choice = (name: keyof HostOffers, words: string, note: string) => (
    <label className="check">
      <input
        type="checkbox"
        checked={offers[name]}
        disabled={set.isPending}
        onChange={(e) => set.mutate({ ...offers, [name]: e.target.checked })}
      />
      <span>
        {words}
        <span className="note block">{note}</span>
      </span>
    </label>
  );
  return (
    <fieldset>
      <legend className="lab">{say.yourHostTakes}</legend>
      {choice('foot', say.codeForTheFoot, say.oftenUnderSettings)}
      {choice('blocks', say.aBlockOfCode, say.aPartOfThePageEditor)}
      {!offers.blocks && <p className="note">{offers.foot ? say.thenTextDoes : say.thenALinkDoes}</p>}
    </fieldset>
  );
}

function ShopPage({ data }: { data: HandOutView }) {
  const { site } = useBoot();
  const [value, setValue] = useState(data.shopPage);
  const [wrong, setWrong] = useState('');
  const set = useMutation({
    mutationFn: (shopPage: string) => call(site.slug, 'PUT hand-out', { body: { shopPage } }),
    onSuccess: (view) => {
      setWrong('');
      setValue(view.shopPage);
      keep(view);
    },
    onError: (e) => (e instanceof Problem ? setWrong(e.message) : toast.error(e.message)),
  });
  const isNew = value.trim() !== data.shopPage;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        set.mutate(value.trim());
      }}
      noValidate
    >
      <UrlField
        label={say.yourShopPage}
        value={value}
        onChange={setValue}
        wrong={wrong}
        note={say.makeAnEmptyPage}
        placeholder={data.suggested}
      />
      {isNew && (
        <button type="submit" className="btn sm mt-2" disabled={set.isPending}>
          {value.trim() ? say.itIsThere : say.thereIsNone}
        </button>
      )}
    </form>
  );
}

function Pieces({ data }: { data: HandOutView }) {
  if (data.pieces.length === 0) return <p className="note">{say.nothingIsToBePasted}</p>;
  return (
    <ol className="pieces">
      {data.pieces.map((piece) => (
        <PieceItem key={piece.id} piece={piece} />
      ))}
    </ol>
  );
}

function PieceItem({ piece }: { piece: PieceLine }) {
  const look = useLook();
  return (
    <li className={`piece ${piece.state}`} aria-label={piece.name}>
      <div>
        <b>{piece.name}</b>
        <p className="note">{whereItGoes(piece)}</p>
      </div>
      <code className="written">{piece.code}</code>
      <div className="piece-acts">
        <CopyButton text={piece.code} what={piece.what === 'menu' ? say.copyTheAddress : say.copy} />
        <button
          type="button"
          className="btn sm"
          aria-label={say.hasArrived(piece.name)}
          disabled={look.isPending}
          onClick={() => look.mutate(piece.id)}
        >
          {look.isPending ? say.looking : say.hasItArrived}
        </button>
      </div>
      <ul className="seen" aria-live="polite">
        {piece.pages.map(({ url, seen }) =>
          seen ? (
            <li key={url}>
              <a className="mono" href={url} target="_blank" rel="noreferrer">
                {url}
              </a>{' '}
              <span className={seen.isToday ? 'good' : 'bad'}>{seen.message}</span>{' '}
              <span className="note mono">{when(seen.at)}</span>
            </li>
          ) : null,
        )}
      </ul>
    </li>
  );
}

/** Where a piece goes, in a sentence. */
function whereItGoes({ goes, pages, spot, of, spelling, what }: PieceLine): string {
  if (goes === 'foot') return say.inTheFootOfEveryPage;
  if (goes === 'menu') return say.inYourMenu;
  const [first] = pages;
  const page = of > 1 ? say.onPages(first?.name ?? '', of - 1) : say.onThePage(first?.name ?? '');
  if (what === 'shop') return `${page} ${say.whereItsContentGoes}`;
  if (spelling === 'link') return `${page} ${say.asTheTargetOfALink}`;
  return `${page} ${spot}${spelling === 'shortcode' ? `, ${say.asText}` : ''}`;
}

function TakeOut({ data }: { data: HandOutView }) {
  return (
    <div className="take-out" role="status">
      <h3>{say.takeTheseOut}</h3>
      <p className="note">{say.theyStandThereAndSellNothing}</p>
      <ul>
        {data.out.map((o) => (
          <li key={`${o.placement} ${o.url}`}>
            <b>{o.name}</b>{' '}
            <a className="mono" href={o.url} target="_blank" rel="noreferrer">
              {o.url}
            </a>
          </li>
        ))}
      </ul>
    </div>
  );
}
