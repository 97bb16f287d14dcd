import { X } from 'lucide-react';
import type { GoodsLine } from '../../services/goods/lines';
import { moreFields as say } from '../words/goods';
import { BadgeField } from './badge-field';
import { BuyerTexts } from './buyer-texts';
import { Choice, Part, TextField } from './fields';
import { FilmField } from './film-field';
import type { Draft, Errors } from './form';
import { LinkPrices } from './link-prices';
import { SectionsField } from './sections-field';
import type { Change, SetField } from './use-draft';

interface Props {
  readonly draft: Draft;
  readonly set: SetField;
  readonly change: Change;
  readonly errors: Errors;
  readonly symbol: string;
  readonly goods: readonly GoodsLine[];
  readonly saved: { readonly slug: string; readonly keys: readonly string[] } | undefined;
}

/** What many products do without: folded until it is wanted, with a word on what is there. */
export function MoreFields({ draft, set, change, errors, symbol, goods, saved }: Props) {
  return (
    <div>
      <WhenOut draft={draft} set={set} errors={errors} />
      <BuyerTexts draft={draft} change={change} errors={errors} symbol={symbol} />
      {!draft.open && draft.kind !== 'link' && (
        <LinkPrices draft={draft} change={change} errors={errors} symbol={symbol} saved={saved} />
      )}
      <SectionsField draft={draft} change={change} error={errors.sections} />
      <Found draft={draft} set={set} errors={errors} />
      <Related draft={draft} set={set} goods={goods} />
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

type FieldsProps = Pick<Props, 'draft' | 'set' | 'errors'>;

/** What shoppers meet when none is left, and from when on few are. */
function WhenOut({ draft, set, errors }: FieldsProps) {
  const ahead = draft.expected ? say.toBeOrderedAheadExpected(draft.expected) : say.toBeOrderedAhead;
  const notes = { refuse: say.shoppersReadSoldOut, 'sell-on': say.soldOnAllTheSame, preorder: ahead };
  return (
    <Part title={say.soldOutAndFewLeft} note={notes[draft.whenOut]} open={!!errors.stockRule || !!errors.low}>
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
  );
}

function Found({ draft, set, errors }: FieldsProps) {
  return (
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
        <BadgeField draft={draft} set={set} />
      </div>
    </Part>
  );
}

function Related({ draft, set, goods }: Pick<Props, 'draft' | 'set' | 'goods'>) {
  const { related } = draft;
  const others = goods.filter((g) => !related.includes(g.slug) && g.slug !== draft.slug);
  return (
    <Part
      title={say.goesWellWithIt}
      note={related.length ? say.chosenByHand(related.length) : say.thoseThatShareItsCategories}
    >
      <ul className="gparts">
        {related.map((slug) => (
          <li key={slug}>
            <span>{goods.find((g) => g.slug === slug)?.name ?? slug}</span>
            <button
              type="button"
              aria-label={say.takeOut(slug)}
              onClick={() =>
                set(
                  'related',
                  related.filter((s) => s !== slug),
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
        onChange={(e) => e.target.value && set('related', [...related, e.target.value])}
      >
        <option value="">{say.chooseByHand}</option>
        {others.map((g) => (
          <option key={g.id} value={g.slug}>
            {g.name}
          </option>
        ))}
      </select>
    </Part>
  );
}
