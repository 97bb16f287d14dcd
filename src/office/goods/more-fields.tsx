import { Plus, X } from 'lucide-react';
import { lazy, Suspense, useMemo } from 'react';
import type { GoodsLine } from '../../services/goods/lines';
import { Choice, Part, TextField, Tick, Wrong } from './fields';
import { FilmField } from './film-field';
import type { Draft, Errors } from './form';
import { LinkPrices } from './link-prices';
import type { Change, SetField } from './use-draft';
import { useSiteFont } from './use-site-font';
import { moreFields as say } from '../words/goods';

const RichEditor = lazy(() => import('./rich-editor'));

/** What many products do without: folded until it is wanted, with a word on what is there. */
export function MoreFields({
  draft,
  set,
  change,
  errors,
  symbol,
  goods,
  saved,
}: {
  draft: Draft;
  set: SetField;
  change: Change;
  errors: Errors;
  symbol: string;
  goods: readonly GoodsLine[];
  saved: { readonly slug: string; readonly keys: readonly string[] } | undefined;
}) {
  const texts = (to: Draft['texts']) => change('texts', (d) => ({ ...d, texts: to }));
  const sections = (to: Draft['sections']) => change('sections', (d) => ({ ...d, sections: to }));
  return (
    <div>
      <Part
        title={say.soldOutAndFewLeft}
        note={
          {
            refuse: say.shoppersReadSoldOut,
            'sell-on': say.soldOnAllTheSame,
            preorder: draft.expected ? say.toBeOrderedAheadExpected(draft.expected) : say.toBeOrderedAhead,
          }[draft.whenOut]
        }
        open={!!errors.stockRule || !!errors.low}
      >
        <div className="g-4">
          <Choice
            label={say.atNought}
            value={draft.whenOut}
            options={[
              ['refuse', say.soldOut],
              ['sell-on', say.sellOn],
              ['preorder', say.orderAhead],
            ]}
            onChange={(v) => set('whenOut', v)}
          />
          {draft.whenOut === 'preorder' && (
            <TextField
              label={say.expected}
              type="date"
              value={draft.expected}
              onChange={(v) => set('expected', v)}
              error={errors.stockRule}
            />
          )}
          <TextField
            label={say.fewAre}
            value={draft.low}
            mode="numeric"
            placeholder="3"
            after={say.orFewer}
            onChange={(v) => set('low', v)}
            error={errors.low}
          />
        </div>
      </Part>
      <Part
        title={say.whatTheBuyerWrites}
        note={draft.texts.map((t) => t.label).join(', ')}
        open={Object.keys(errors).some((e) => e.startsWith('texts'))}
      >
        {draft.texts.map((t, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: texts have no identity but their place
          <div className="g-text" key={n}>
            <TextField
              label={say.asksFor}
              value={t.label}
              placeholder={say.initialsOnTheTag}
              most={60}
              onChange={(label) => texts(draft.texts.map((x, i) => (i === n ? { ...x, label } : x)))}
              error={errors[`texts-${n}`]}
            />
            <TextField
              label={say.upTo}
              value={t.most}
              mode="numeric"
              after={say.letters}
              onChange={(most) => texts(draft.texts.map((x, i) => (i === n ? { ...x, most } : x)))}
            />
            <TextField
              label={say.costs}
              value={t.price}
              mode="decimal"
              unit={symbol}
              placeholder={say.nothing}
              onChange={(price) => texts(draft.texts.map((x, i) => (i === n ? { ...x, price } : x)))}
            />
            <Tick
              checked={t.required}
              onChange={(required) => texts(draft.texts.map((x, i) => (i === n ? { ...x, required } : x)))}
            >
              {say.mustBeWritten}
            </Tick>
            <button
              type="button"
              className="btn sm quiet beet"
              aria-label={say.takeOut(t.label || say.thisText)}
              onClick={() => texts(draft.texts.filter((_, i) => i !== n))}
            >
              <X size={12} aria-hidden />
            </button>
          </div>
        ))}
        {draft.texts.length < 5 && (
          <button
            type="button"
            className="btn sm"
            onClick={() => texts([...draft.texts, { label: '', most: '40', required: false, price: '' }])}
          >
            <Plus size={12} aria-hidden />
            {say.aTextLikeInitials}
          </button>
        )}
      </Part>
      {!draft.open && draft.kind !== 'link' && (
        <LinkPrices draft={draft} change={change} errors={errors} symbol={symbol} saved={saved} />
      )}
      <Part
        title={say.sections}
        note={draft.sections.map((s) => s.title).join(', ')}
        open={!!errors.sections}
      >
        {draft.sections.map((s, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: sections have no identity but their place
          <div className="g-section" key={n}>
            <div className="flex gap-2">
              <input
                className="in"
                aria-label={say.titleOfTheSection}
                placeholder={say.care}
                value={s.title}
                maxLength={80}
                onChange={(e) =>
                  sections(draft.sections.map((x, i) => (i === n ? { ...x, title: e.target.value } : x)))
                }
              />
              <button
                type="button"
                className="btn quiet beet"
                aria-label={say.takeOutTheSection(s.title)}
                onClick={() => sections(draft.sections.filter((_, i) => i !== n))}
              >
                <X size={13} aria-hidden />
              </button>
            </div>
            <Suspense fallback={<p className="note">{say.opening}</p>}>
              <RichEditor
                label={say.textOf(s.title || say.theSection)}
                value={s.text}
                onChange={(text) => sections(draft.sections.map((x, i) => (i === n ? { ...x, text } : x)))}
              />
            </Suspense>
          </div>
        ))}
        <Wrong text={errors.sections} />
        {draft.sections.length < 8 && (
          <div className="flex flex-wrap gap-1">
            {[say.care, say.sizes, say.delivery, say.returns]
              .filter((t) => !draft.sections.some((s) => s.title === t))
              .map((title) => (
                <button
                  key={title}
                  type="button"
                  className="btn sm"
                  onClick={() => sections([...draft.sections, { title, text: '' }])}
                >
                  <Plus size={12} aria-hidden />
                  {title}
                </button>
              ))}
          </div>
        )}
      </Part>
      <Part
        title={say.howItIsFound}
        note={[draft.categories, draft.tags].filter(Boolean).join(' · ')}
        open={!!errors.categories || !!errors.slug}
      >
        <TextField
          label={say.categoriesWithCommasBetweenOneInside}
          value={draft.categories}
          onChange={(v) => set('categories', v)}
          error={errors.categories}
        />
        <div className="g-2">
          <TextField
            label={say.tagsWithCommasBetween}
            value={draft.tags}
            onChange={(v) => set('tags', v)}
            error={errors.tags}
          />
          <TextField
            label={say.otherWordsItIsSearchedBy}
            value={draft.searchWords}
            most={300}
            onChange={(v) => set('searchWords', v)}
          />
          <TextField
            label={say.addressTheFormerOneLeadsOn}
            value={draft.slug}
            placeholder={say.madeFromTheName}
            onChange={(v) => set('slug', v)}
            error={errors.slug}
          />
          <Badge draft={draft} set={set} />
        </div>
      </Part>
      <Part
        title={say.goesWellWithIt}
        note={draft.related.length ? say.chosenByHand(draft.related.length) : say.thoseThatShareItsCategories}
      >
        <ul className="gparts">
          {draft.related.map((slug) => (
            <li key={slug}>
              <span>{goods.find((g) => g.slug === slug)?.name ?? slug}</span>
              <button
                type="button"
                aria-label={say.takeOut(slug)}
                onClick={() =>
                  set(
                    'related',
                    draft.related.filter((s) => s !== slug),
                  )
                }
              >
                <X size={13} />
              </button>
            </li>
          ))}
        </ul>
        <select
          className="in"
          aria-label={say.addARelatedProduct}
          value=""
          onChange={(e) => e.target.value && set('related', [...draft.related, e.target.value])}
        >
          <option value="">{say.chooseByHand}</option>
          {goods
            .filter((g) => !draft.related.includes(g.slug) && g.slug !== draft.slug)
            .map((g) => (
              <option key={g.id} value={g.slug}>
                {g.name}
              </option>
            ))}
        </select>
      </Part>
      <Part
        title={say.film}
        note={draft.film || draft.video ? say.loadedOnlyWhenTheShopperAsks : undefined}
        open={!!errors.video}
      >
        <FilmField draft={draft} set={set} errors={errors} />
      </Part>
    </div>
  );
}

/** Room for a badge on the narrowest card, in CSS pixels: a column of 9.5 rem, less the badge's own edges and its distance (storefront.css). */
const BADGE_ROOM = 9.5 * 16 - 2 * 8 - 2 * 8.8 - 3;

function Badge({ draft, set }: { draft: Draft; set: SetField }) {
  const { font, own } = useSiteFont();
  const width = useMemo(() => {
    const pen = document.createElement('canvas').getContext('2d');
    if (!pen) return 0;
    pen.font = `700 14.4px ${font}`;
    return pen.measureText(draft.badge).width;
  }, [draft.badge, font]);
  const fits = width <= BADGE_ROOM;
  return (
    <div>
      <TextField
        label={say.badge}
        value={draft.badge}
        most={24}
        placeholder={say.noneAnOfferShowsItsPer}
        onChange={(v) => set('badge', v)}
      />
      {draft.badge && (
        <p className={fits ? 'note' : 'field-error'}>
          {fits
            ? say.needsOfPxInFitsThe(Math.ceil(width), Math.floor(BADGE_ROOM), own || say.aUsualFont)
            : say.needsPxInAndTheNarrowest(Math.ceil(width), own || say.aUsualFont, Math.floor(BADGE_ROOM))}
        </p>
      )}
    </div>
  );
}
