import { Plus, X } from 'lucide-react';
import { lazy, Suspense, useMemo } from 'react';
import type { GoodsLine } from '../../services/goods/lines';
import { Choice, Part, TextField, Tick, Wrong } from './fields';
import { FilmField } from './film-field';
import type { Draft, Errors } from './form';
import { LinkPrices } from './link-prices';
import type { Change, SetField } from './use-draft';
import { useSiteFont } from './use-site-font';

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
        title="Sold out and few left"
        note={
          {
            refuse: 'shoppers read “sold out”',
            'sell-on': 'sold on all the same',
            preorder: draft.expected
              ? `to be ordered ahead, expected ${draft.expected}`
              : 'to be ordered ahead',
          }[draft.whenOut]
        }
        open={!!errors.stockRule || !!errors.low}
      >
        <div className="g-4">
          <Choice
            label="At nought"
            value={draft.whenOut}
            options={[
              ['refuse', 'Sold out'],
              ['sell-on', 'Sell on'],
              ['preorder', 'Order ahead'],
            ]}
            onChange={(v) => set('whenOut', v)}
          />
          {draft.whenOut === 'preorder' && (
            <TextField
              label="Expected"
              type="date"
              value={draft.expected}
              onChange={(v) => set('expected', v)}
              error={errors.stockRule}
            />
          )}
          <TextField
            label="Few are"
            value={draft.low}
            mode="numeric"
            placeholder="3"
            after="or fewer"
            onChange={(v) => set('low', v)}
            error={errors.low}
          />
        </div>
      </Part>
      <Part
        title="What the buyer writes"
        note={draft.texts.map((t) => t.label).join(', ')}
        open={Object.keys(errors).some((e) => e.startsWith('texts'))}
      >
        {draft.texts.map((t, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: texts have no identity but their place
          <div className="g-text" key={n}>
            <TextField
              label="Asks for"
              value={t.label}
              placeholder="Initials on the tag"
              most={60}
              onChange={(label) => texts(draft.texts.map((x, i) => (i === n ? { ...x, label } : x)))}
              error={errors[`texts-${n}`]}
            />
            <TextField
              label="Up to"
              value={t.most}
              mode="numeric"
              after="letters"
              onChange={(most) => texts(draft.texts.map((x, i) => (i === n ? { ...x, most } : x)))}
            />
            <TextField
              label="Costs"
              value={t.price}
              mode="decimal"
              unit={symbol}
              placeholder="nothing"
              onChange={(price) => texts(draft.texts.map((x, i) => (i === n ? { ...x, price } : x)))}
            />
            <Tick
              checked={t.required}
              onChange={(required) => texts(draft.texts.map((x, i) => (i === n ? { ...x, required } : x)))}
            >
              Must be written
            </Tick>
            <button
              type="button"
              className="btn sm quiet beet"
              aria-label={`Take out ${t.label || 'this text'}`}
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
            <Plus size={12} aria-hidden />A text, like initials
          </button>
        )}
      </Part>
      {!draft.open && draft.kind !== 'link' && (
        <LinkPrices draft={draft} change={change} errors={errors} symbol={symbol} saved={saved} />
      )}
      <Part title="Sections" note={draft.sections.map((s) => s.title).join(', ')} open={!!errors.sections}>
        {draft.sections.map((s, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: sections have no identity but their place
          <div className="g-section" key={n}>
            <div className="flex gap-2">
              <input
                className="in"
                aria-label="Title of the section"
                placeholder="Care"
                value={s.title}
                maxLength={80}
                onChange={(e) =>
                  sections(draft.sections.map((x, i) => (i === n ? { ...x, title: e.target.value } : x)))
                }
              />
              <button
                type="button"
                className="btn quiet beet"
                aria-label={`Take out the section ${s.title}`}
                onClick={() => sections(draft.sections.filter((_, i) => i !== n))}
              >
                <X size={13} aria-hidden />
              </button>
            </div>
            <Suspense fallback={<p className="note">Opening…</p>}>
              <RichEditor
                label={`Text of ${s.title || 'the section'}`}
                value={s.text}
                onChange={(text) => sections(draft.sections.map((x, i) => (i === n ? { ...x, text } : x)))}
              />
            </Suspense>
          </div>
        ))}
        <Wrong text={errors.sections} />
        {draft.sections.length < 8 && (
          <div className="flex flex-wrap gap-1">
            {['Care', 'Sizes', 'Delivery', 'Returns']
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
        title="How it is found"
        note={[draft.categories, draft.tags].filter(Boolean).join(' · ')}
        open={!!errors.categories || !!errors.slug}
      >
        <TextField
          label="Categories, with commas between; one inside another as Baskets / Trugs"
          value={draft.categories}
          onChange={(v) => set('categories', v)}
          error={errors.categories}
        />
        <div className="g-2">
          <TextField
            label="Tags, with commas between"
            value={draft.tags}
            onChange={(v) => set('tags', v)}
            error={errors.tags}
          />
          <TextField
            label="Other words it is searched by"
            value={draft.searchWords}
            most={300}
            onChange={(v) => set('searchWords', v)}
          />
          <TextField
            label="Address; the former one leads on"
            value={draft.slug}
            placeholder="made from the name"
            onChange={(v) => set('slug', v)}
            error={errors.slug}
          />
          <Badge draft={draft} set={set} />
        </div>
      </Part>
      <Part
        title="Goes well with it"
        note={
          draft.related.length ? `${draft.related.length} chosen by hand` : 'those that share its categories'
        }
      >
        <ul className="gparts">
          {draft.related.map((slug) => (
            <li key={slug}>
              <span>{goods.find((g) => g.slug === slug)?.name ?? slug}</span>
              <button
                type="button"
                aria-label={`Take out ${slug}`}
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
          aria-label="Add a related product"
          value=""
          onChange={(e) => e.target.value && set('related', [...draft.related, e.target.value])}
        >
          <option value="">Choose by hand…</option>
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
        title="Film"
        note={draft.film || draft.video ? 'loaded only when the shopper asks' : undefined}
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
        label="Badge"
        value={draft.badge}
        most={24}
        placeholder="none; an offer shows its per cent"
        onChange={(v) => set('badge', v)}
      />
      {draft.badge && (
        <p className={fits ? 'note' : 'field-error'}>
          {fits
            ? `Needs ${Math.ceil(width)} of ${Math.floor(BADGE_ROOM)} px in ${own || 'a usual font'}: fits the narrowest card.`
            : `Needs ${Math.ceil(width)} px in ${own || 'a usual font'}, and the narrowest card has ${Math.floor(BADGE_ROOM)}: shorten it.`}
        </p>
      )}
    </div>
  );
}
