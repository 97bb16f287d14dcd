import sharp from 'sharp';
import { catalogueOf } from '../../src/services/goods/catalogue';
import { saveProduct } from '../../src/services/goods/goods';
import { takePicture } from '../../src/services/goods/pictures';
import type { CheckedShop } from './checked-shop';

/** Changes a product that is known by its name; `stock`, `weight`, `alt` and the size of `picture` are those of its first choice and picture. */
export async function updateGoods(
  shop: CheckedShop,
  name: string,
  { stock, weight, alt, picture, ...fields }: Record<string, unknown>,
): Promise<void> {
  const { ctx } = shop.world;
  const product = (await catalogueOf(ctx, shop.id)).all.find((p) => p.name === name);
  if (!product) throw new Error(`no product ${name}`);
  const [first] = product.variants;
  const variants = weight === undefined ? undefined : product.variants.map((v) => ({ ...v, weight }));
  const hash = Array.isArray(picture)
    ? await pictureOf(shop, Number(picture[0]), Number(picture[1]))
    : undefined;
  const pictures =
    alt === undefined && hash === undefined
      ? undefined
      : product.pictures.map((p) => ({ ...p, ...(alt !== undefined && { alt }), ...(hash && { hash }) }));
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

async function pictureOf(shop: CheckedShop, width: number, height: number): Promise<string> {
  const bytes = await sharp({ create: { width, height, channels: 3, background: '#7a8a5c' } })
    .png()
    .toBuffer();
  return takePicture(shop.world.ctx, bytes);
}
