import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { ReviewLine } from '../../services/goods/reviews';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';
import { day } from '../ui/when';
import { GoodsWays, type GoodsView, useReviews } from './ways';
import { reviewsView as say } from '../words/goods';

const states = [
  ['waiting', say.toRead],
  ['shown', say.shown],
  ['hidden', say.hidden],
] as const;
type State = ReviewLine['state'];

/** What buyers say: read, then shown or hidden, and answered. Live at once, each with its undo. */
export function ReviewsView({ onGo }: { onGo: (to: GoodsView) => void }) {
  const { data, error } = useReviews();
  const [state, setState] = useState<State | null>(null);
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.fetchingTheReviews}</p>;
  const count = (s: State) => data.filter((r) => r.state === s).length;
  const at = state ?? (count('waiting') ? 'waiting' : 'shown');
  const wanted = data.filter((r) => r.state === at);
  const noneHere = at === 'waiting' ? say.allAreRead : say.noneAreHere;
  return (
    <div className="gtable">
      <div className="gtable-h">
        <h1>{say.reviews}</h1>
        <span className="mono">{data.length}</span>
        <fieldset className="seg" aria-label={say.whichReviews}>
          {states.map(([s, name]) => (
            <button key={s} type="button" aria-pressed={s === at} onClick={() => setState(s)}>
              {name} <span className="mono">{count(s)}</span>
            </button>
          ))}
        </fieldset>
        <GoodsWays at="reviews" onGo={onGo} />
      </div>
      <div className="gtable-scroll">
        {wanted.length === 0 && (
          <p className="empty note">{data.length === 0 ? say.nobodyHasWrittenYetBuyersFind : noneHere}</p>
        )}
        <ul className="greviews">
          {wanted.map((r) => (
            <Review key={r.id} review={r} />
          ))}
        </ul>
      </div>
    </div>
  );
}

function Review({ review: r }: { review: ReviewLine }) {
  const { site } = useBoot();
  const [answer, setAnswer] = useState<string | null>(null);
  const decide = useMutation({
    mutationFn: (to: Partial<Pick<ReviewLine, 'state' | 'answer'>>) =>
      call(site.slug, 'PUT reviews/:id', { id: r.id, body: to }),
    onSuccess: (before, to) => {
      refresh('reviews', 'goods');
      setAnswer(null);
      const states = {
        shown: say.shownAndLive,
        hidden: say.hiddenNobodySeesIt,
        waiting: say.itWaitsToBeReadAgain,
      };
      const message = to.answer === undefined ? states[to.state ?? 'waiting'] : say.yourAnswerStandsBeneathIt;
      toast.success(message, {
        duration: 60_000,
        action: {
          label: say.undo,
          onClick: () =>
            void call(site.slug, 'PUT reviews/:id', { id: r.id, body: before }).then(
              () => refresh('reviews', 'goods'),
              (e: Error) => toast.error(e.message),
            ),
        },
      });
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <li>
      <div className="grev-h">
        <span className="grev-stars" role="img" aria-label={say.of5Stars(r.rating)}>
          {'★'.repeat(r.rating)}
          <i>{'★'.repeat(5 - r.rating)}</i>
        </span>
        <b>{r.name}</b>
        <span className="note">
          {say.ofOrder(r.product)}
          <span className="mono">{r.order}</span>, {day(r.createdAt)}
        </span>
      </div>
      {r.title && <h2>{r.title}</h2>}
      {r.text && <p className="grev-text">{r.text}</p>}
      {r.answer && answer === null && (
        <blockquote>
          <span className="note">{say.youAnswer}</span>
          <p>{r.answer}</p>
        </blockquote>
      )}
      {answer !== null && (
        <div className="grev-answer">
          <label className="lab" htmlFor={`a-${r.id}`}>
            {say.yourAnswerForAllToRead}
          </label>
          <textarea
            id={`a-${r.id}`}
            className="in"
            rows={3}
            maxLength={2000}
            value={answer}
            onChange={(e) => setAnswer(e.target.value)}
          />
        </div>
      )}
      <div className="grev-acts">
        {answer === null ? (
          <>
            {r.state !== 'shown' && (
              <button
                type="button"
                className="btn leaf sm"
                disabled={decide.isPending}
                onClick={() => decide.mutate({ state: 'shown' })}
              >
                {say.showIt}
              </button>
            )}
            {r.state !== 'hidden' && (
              <button
                type="button"
                className="btn sm"
                disabled={decide.isPending}
                onClick={() => decide.mutate({ state: 'hidden' })}
              >
                {say.hideIt}
              </button>
            )}
            <button type="button" className="btn sm quiet" onClick={() => setAnswer(r.answer)}>
              {r.answer ? say.changeTheAnswer : say.answer}
            </button>
          </>
        ) : (
          <>
            <button
              type="button"
              className="btn leaf sm"
              disabled={decide.isPending}
              onClick={() => decide.mutate({ answer })}
            >
              {answer.trim() ? say.putItBeneath : say.takeTheAnswerAway}
            </button>
            <button type="button" className="btn sm quiet" onClick={() => setAnswer(null)}>
              {say.leaveIt}
            </button>
          </>
        )}
      </div>
    </li>
  );
}
