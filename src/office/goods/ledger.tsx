import { useQuery } from '@tanstack/react-query';
import type { Product } from '../../core/goods/product';
import { variantLabel } from '../../core/goods/variants';
import { call } from '../api';
import { useBoot } from '../shop-context';
import { Part } from './fields';

interface Movement {
  readonly id: number;
  readonly variantId: string;
  readonly delta: number;
  readonly reason: string;
  readonly note: string;
  readonly ref: string | null;
  readonly at: string;
}

const words: Readonly<Record<string, string>> = { counted: 'counted', delivered: 'came in', damaged: 'damaged', corrected: 'put right', sold: 'sold', returned: 'came back', undone: 'undone' };

/** Why the count is what it is: every movement, newest first, with what it left. */
export function Ledger({ product }: { product: Product }) {
  const { site } = useBoot();
  const { data } = useQuery({ queryKey: ['goods', product.id, 'movements'], queryFn: () => call<Movement[]>(`/api/${site.slug}/goods/${product.id}/movements`) });
  const label = new Map(product.variants.map((v) => [v.id, variantLabel(v)]));
  const when = new Intl.DateTimeFormat(site.locale, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  // From today's count backwards: what each movement left.
  const left = new Map(product.variants.map((v) => [v.id, v.stock ?? 0]));
  const rows = (data ?? []).map((m) => {
    const after = left.get(m.variantId) ?? 0;
    left.set(m.variantId, after - m.delta);
    return { ...m, after };
  });
  return (
    <Part title="Why the count is what it is" note={data ? `${data.length} ${data.length === 1 ? 'movement' : 'movements'}` : undefined}>
      {rows.length === 0 ? <p className="note">Nothing has been counted or sold yet.</p> : (
        <table className="ledger"><thead><tr><th scope="col">When</th><th scope="col">What</th>{product.options.length > 0 && <th scope="col">Which</th>}<th scope="col" className="n">By</th><th scope="col" className="n">Left</th></tr></thead>
          <tbody>{rows.slice(0, 60).map((m) => <tr key={m.id}><td>{when.format(new Date(m.at))}</td><td>{words[m.reason] ?? m.reason}{m.note && `: ${m.note}`}</td>{product.options.length > 0 && <td>{label.get(m.variantId) ?? 'no longer sold'}</td>}<td className="n mono">{m.delta > 0 ? `+${m.delta}` : m.delta}</td><td className="n mono">{m.after}</td></tr>)}</tbody></table>
      )}
    </Part>
  );
}
