import { Link2 } from 'lucide-react';
import { toast } from 'sonner';
import type { Product } from '../../core/goods/product';
import { useBoot } from '../shop-context';
import { sheet as say } from '../words/goods';
import { Wrong } from './fields';
import type { Draft } from './form';
import type { SetField } from './use-draft';

/** The name, where it is found, and its link. */
export function SheetHead({
  product,
  draft,
  set,
  error,
}: {
  product: Product | undefined;
  draft: Draft;
  set: SetField;
  error: string | undefined;
}) {
  return (
    <div className="ghead">
      <div>
        <input
          className="gname"
          aria-label={say.name}
          placeholder={say.whatIsItCalled}
          value={draft.name}
          maxLength={140}
          onChange={(e) => set('name', e.target.value)}
          aria-invalid={!!error}
        />
        <p className="path">
          {product ? `/goods/${product.slug}` : say.aNewProduct}
          {draft.sample && <b className="sample">{say.sample}</b>}
        </p>
        <Wrong text={error} />
      </div>
      {product && <CopyLink slug={product.slug} />}
    </div>
  );
}

function CopyLink({ slug }: { slug: string }) {
  const { site } = useBoot();
  const copy = async () => {
    await navigator.clipboard.writeText(site.goodsAddress.replace('{}', encodeURIComponent(slug)));
    toast.success(say.itsLinkIsCopied);
  };
  return (
    <button type="button" className="btn quiet sm" onClick={() => void copy()}>
      <Link2 size={13} aria-hidden />
      {say.copyLink}
    </button>
  );
}
