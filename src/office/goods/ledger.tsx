import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Product } from '../../core/goods/product';
import { variantLabel } from '../../core/goods/variants';
import { call, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { Choice, Part, TextField } from './fields';
import { ledger as say } from '../words/goods';

const words: Readonly<Record<string, string>> = {
  counted: 'counted',
  delivered: say.cameIn,
  damaged: 'damaged',
  corrected: say.putRight,
  sold: 'sold',
  returned: say.cameBack,
  undone: 'undone',
};

/** Why the count is what it is: every movement, newest first, with what it left. */
export function Ledger({ product }: { product: Product }) {
  const { site } = useBoot();
  const { data } = useQuery({
    queryKey: viewKey('goods', product.id, 'movements'),
    queryFn: () => call(site.slug, 'GET goods/:id/movements', { id: product.id }),
  });
  const label = new Map(product.variants.map((v) => [v.id, variantLabel(v)]));
  const when = new Intl.DateTimeFormat(site.locale, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
  // From today's count backwards: what each movement left.
  const left = new Map(product.variants.map((v) => [v.id, v.stock ?? 0]));
  const rows = (data ?? []).map((m) => {
    const after = left.get(m.variantId) ?? 0;
    left.set(m.variantId, after - m.delta);
    return { ...m, after };
  });
  return (
    <Part
      title={say.whyTheCountIsWhatIt}
      note={data ? `${data.length} ${data.length === 1 ? 'movement' : 'movements'}` : undefined}
    >
      <Book product={product} />
      {rows.length === 0 ? (
        <p className="note">{say.nothingHasBeenCountedOrSold}</p>
      ) : (
        <table className="ledger">
          <thead>
            <tr>
              <th scope="col">{say.when}</th>
              <th scope="col">{say.what}</th>
              {product.options.length > 0 && <th scope="col">{say.choice}</th>}
              <th scope="col" className="n">
                {say.by}
              </th>
              <th scope="col" className="n">
                {say.left}
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, 60).map((m) => (
              <tr key={m.id}>
                <td>{when.format(new Date(m.at))}</td>
                <td>
                  {words[m.reason] ?? m.reason}
                  {m.note && `: ${m.note}`}
                </td>
                {product.options.length > 0 && <td>{label.get(m.variantId) ?? say.noLongerSold}</td>}
                <td className="n mono">{m.delta > 0 ? `+${m.delta}` : m.delta}</td>
                <td className="n mono">{m.after}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Part>
  );
}

/** Reasons an owner gives; the others are the shop's own. `sign` says which way such a movement usually goes. */
const reasons = [
  ['delivered', say.cameIn2],
  ['returned', say.cameBack2],
  ['damaged', say.damagedOrLost],
  ['corrected', say.putRight2],
] as const;
type Reason = (typeof reasons)[number][0];

/** What a typed number of pieces means with a reason: damaged pieces leave, whatever sign was typed. Nothing when it is no number. */
export function deltaOf(typed: string, reason: Reason): number | undefined {
  const bare = typed.trim().replace(/^\u2212/, '-');
  if (!/^[+-]?\d{1,7}$/.test(bare)) return undefined;
  const n = Number(bare);
  return (reason === 'damaged' ? -Math.abs(n) : n) || undefined;
}

/** Pieces that came or went, with the reason, so that the count can be understood a year later. Live at once. */
function Book({ product }: { product: Product }) {
  const { site } = useBoot();
  const [variantId, setVariant] = useState(product.variants[0]?.id ?? '');
  const [reason, setReason] = useState<Reason>('delivered');
  const [pieces, setPieces] = useState('');
  const [note, setNote] = useState('');
  const variant = product.variants.find((v) => v.id === variantId);
  const delta = deltaOf(pieces, reason);
  const after = variant && delta !== undefined ? (variant.stock ?? 0) + delta : undefined;
  const book = useMutation({
    mutationFn: (to: number) =>
      call(site.slug, 'PUT goods/:id', {
        id: product.id,
        body: {
          counts: [{ variantId, from: variant?.stock ?? null, to, reason, note }],
        },
      }),
    onSuccess: () => {
      refresh('goods', 'slip');
      toast.success(say.bookedAndLiveTheSlipHas);
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <div className="gbook">
      {product.options.length > 0 && (
        <Choice
          label={say.which}
          value={variantId}
          options={product.variants.map((v) => [v.id, variantLabel(v)])}
          onChange={setVariant}
        />
      )}
      <Choice label={say.whatHappened} value={reason} options={reasons} onChange={setReason} />
      <TextField
        label={say.pieces}
        value={pieces}
        mode="numeric"
        placeholder={reason === 'damaged' ? '2' : '+12'}
        onChange={setPieces}
      />
      <TextField label={say.note} value={note} most={200} placeholder={say.forYourself} onChange={setNote} />
      <button
        type="button"
        className="btn"
        disabled={after === undefined || after < 0 || book.isPending}
        onClick={() => after !== undefined && book.mutate(after)}
      >
        {say.bookIt}
      </button>
      <p className="note" role="status">
        {after !== undefined && after < 0 && <b className="bad">{say.thereAreNotSoMany}</b>}
        {after !== undefined && after >= 0 && say.leaves(after)}
      </p>
    </div>
  );
}
