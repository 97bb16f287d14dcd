import { useEffect, useState } from 'react';
import type { Product, ProductForm } from '../../core/goods/product';
import { call } from '../api';
import { useBoot } from '../shop-context';
import { preview as say } from '../words/goods';

/** Pause in typing after which the preview is drawn anew, in milliseconds. Chosen by hand. */
const PAUSE_MS = 350;

/**
 * The product on a phone, in the site's own style: as it is saved, or as it is being written. A new picture of it is put in
 * place when it is ready, so that nothing flickers while one types.
 */
export function Preview({ product, draft }: { product: Product | undefined; draft: ProductForm | null }) {
  const { site } = useBoot();
  const saved =
    product && product.shows !== 'hidden'
      ? `${site.shopUrl}/goods/${encodeURIComponent(product.slug)}?as=${hashOf(product)}`
      : '';
  const [drawn, setDrawn] = useState('');
  useEffect(() => {
    if (!draft) return setDrawn('');
    let over = false;
    const timer = setTimeout(() => {
      // What cannot be drawn just now leaves the last picture; the sheet says why when it is saved.
      void call(site.slug, 'POST goods/:id/preview', { id: product?.id ?? 'new', body: draft }).then(
        ({ token }) => over || setDrawn(`${site.shopUrl}/preview/${token}`),
        () => {},
      );
    }, PAUSE_MS);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [draft, product?.id, site.slug, site.shopUrl]);
  const src = (draft ? drawn : '') || saved;
  return (
    <section className="prev" aria-label={say.onTheSite}>
      <div className="ph">
        <h2>{say.onTheSite}</h2>
        <span className="mono">{say.phone390(draft && drawn ? say.unsaved : '')}</span>
      </div>
      {src ? (
        <Swapped src={src} title={say.asAShopperMeetsIt(product?.name || say.theNewProduct)} />
      ) : (
        <p className="note">{product ? say.nobodySeesItWhileItIs : say.theProductStandsHereInYour}</p>
      )}
    </section>
  );
}

/** Two frames: the old one stays until the new one has loaded, and keeps where it was scrolled to by being its twin in size. */
function Swapped({ src, title }: { src: string; title: string }) {
  const [shown, setShown] = useState(src);
  const sources = shown === src ? [src] : [shown, src];
  return (
    <div className="phone">
      {sources.map((s) => (
        <iframe
          key={s}
          title={s === shown ? title : say.beingDrawn(title)}
          aria-hidden={s !== shown}
          tabIndex={s === shown ? 0 : -1}
          sandbox=""
          src={s}
          style={{ height: 1080, visibility: s === shown ? 'visible' : 'hidden' }}
          onLoad={() => setShown(s)}
        />
      ))}
    </div>
  );
}

/** A short name for what a product is now, so that a saved change is drawn anew. */
function hashOf(product: Product): string {
  let h = 0;
  for (const c of JSON.stringify(product)) h = (h * 31 + (c.codePointAt(0) ?? 0)) | 0;
  return (h >>> 0).toString(36);
}
