import { catalogueOf } from '../../src/services/goods/catalogue';
import { saveProduct } from '../../src/services/goods/goods';
import type { CheckedShop } from './checked-shop';

/** Changes a product that is known by its name; `stock`, `weight` and `alt` are those of its first choice and picture. */
export async function updateGoods(
  shop: CheckedShop,
  name: string,
  { stock, weight, alt, ...fields }: Record<string, unknown>,
): Promise<void> {
  const { ctx } = shop.world;
  const product = (await catalogueOf(ctx, shop.id)).all.find((p) => p.name === name);
  if (!product) throw new Error(`no product ${name}`);
  const [first] = product.variants;
  const variants = weight === undefined ? undefined : product.variants.map((v) => ({ ...v, weight }));
  const pictures = alt === undefined ? undefined : product.pictures.map((p) => ({ ...p, alt }));
  await saveProduct(
    ctx,
    await shop.site(),
    product.id,
    {
      fields: { ...fields, ...(variants && { variants }), ...(pictures && { pictures }) },
      counts:
        stock === undefined ? [] : [{ variantId: first?.id ?? '', from: first?.stock ?? null, to: stock }],
    },
    'bench',
  );
}
