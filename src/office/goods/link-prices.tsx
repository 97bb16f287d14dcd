import { Link2, Plus, X } from 'lucide-react';
import { toast } from 'sonner';
import { useBoot } from '../shop-context';
import { Part, TextField } from './fields';
import type { Draft, Errors } from './form';
import type { Change } from './use-draft';
import { linkPrices as say } from '../words/goods';

/** Nobody guesses it: 12 letters and digits by the browser's own generator of chance. */
const newKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((n) => (n % 36).toString(36)).join('');

/** Prices of the same product for those who have a link: same stock, an address of its own for each. */
export function LinkPrices({
  draft,
  change,
  errors,
  symbol,
  saved,
}: {
  draft: Draft;
  change: Change;
  errors: Errors;
  symbol: string;
  /** The address it has in the shop and the links that are good; nothing while it is new. */
  saved: { readonly slug: string; readonly keys: readonly string[] } | undefined;
}) {
  const { site } = useBoot();
  const put = (linkPrices: Draft['linkPrices']) => change('linkPrices', (d) => ({ ...d, linkPrices }));
  const edit = (n: number, to: Partial<Draft['linkPrices'][number]>) =>
    put(draft.linkPrices.map((x, i) => (i === n ? { ...x, ...to } : x)));
  const address = (key: string): string => {
    const page = site.goodsAddress.replace('{}', encodeURIComponent(saved?.slug ?? ''));
    return `${page}${page.includes('?') ? '&' : '?'}price=${key}`;
  };
  return (
    <Part
      title={say.pricesByLink}
      note={draft.linkPrices.map((l) => l.name).join(', ')}
      open={Object.keys(errors).some((e) => e.startsWith('linkPrices'))}
    >
      <p className="note">{say.whoeverOpensTheLinkBuysThis}</p>
      {draft.linkPrices.map((l, n) => (
        <div className="g-text" key={l.key}>
          <TextField
            label={say.for}
            value={l.name}
            placeholder={say.members}
            most={60}
            onChange={(name) => edit(n, { name })}
            error={errors[`linkPrices-${n}`]}
          />
          <TextField
            label={say.price}
            value={l.price}
            mode="decimal"
            unit={symbol}
            onChange={(price) => edit(n, { price })}
          />
          {saved?.keys.includes(l.key) ? (
            <button
              type="button"
              className="btn sm"
              onClick={() =>
                void navigator.clipboard
                  .writeText(address(l.key))
                  .then(() => toast.success(say.theLinkForIsCopied(l.name)))
              }
            >
              <Link2 size={12} aria-hidden />
              {say.copyLink}
            </button>
          ) : (
            <span className="note">{say.itsLinkIsThereOnceThis}</span>
          )}
          <button
            type="button"
            className="btn sm quiet beet"
            aria-label={say.removeThePriceFor(l.name || say.thisLink)}
            onClick={() => put(draft.linkPrices.filter((_, i) => i !== n))}
          >
            <X size={12} aria-hidden />
          </button>
        </div>
      ))}
      {draft.linkPrices.length < 10 && (
        <button
          type="button"
          className="btn sm"
          onClick={() => put([...draft.linkPrices, { key: newKey(), name: '', price: '' }])}
        >
          <Plus size={12} aria-hidden />
          {say.addAPriceByLink}
        </button>
      )}
    </Part>
  );
}
