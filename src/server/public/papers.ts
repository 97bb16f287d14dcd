import { escapeHtml } from '../../core/html/escape';
import { printPage } from '../../core/papers/print';
import { Html } from '../../core/storefront/html';
import { richText } from '../../services/goods/rich-text';
import { documentPaper } from '../../services/papers/papers';
import { pdfOf } from '../../services/papers/pdf';
import { policyText } from '../../services/till/policies';
import { readRules } from '../../services/rules/rules';
import { send } from '../http';
import { type Call, route } from './router';
import { type Shop, siteOf } from './shop';

/** Papers of an order, for whoever has its address; and the texts a buyer agrees to. */
export const paperRoutes = [
  route('GET', '/:shop/papers/:order/:id', print),
  route('GET', '/:shop/papers/:order/:id/pdf', pdf),
  route('GET', '/:shop/policies/:id', policy),
];

type PaperCall = Call<'shop' | 'order' | 'id'>;

const paperOf = async (shop: Shop, c: PaperCall) =>
  documentPaper(shop.ctx, await siteOf(shop, c), c.params.id, c.params.order);

async function print(shop: Shop, c: PaperCall): Promise<void> {
  const { paper } = await paperOf(shop, c);
  send(c.res, {
    status: 200,
    type: 'text/html; charset=utf-8',
    body: printPage([paper], `${c.url.pathname}/pdf`),
    headers: {
      'cache-control': 'no-store',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
      'referrer-policy': 'no-referrer',
    },
  });
}

async function pdf(shop: Shop, c: PaperCall): Promise<void> {
  const { paper, name } = await paperOf(shop, c);
  send(c.res, {
    status: 200,
    type: 'application/pdf',
    body: await pdfOf([paper]),
    headers: {
      'cache-control': 'no-store',
      'content-disposition': `inline; filename="${name.replace(/[^\w.-]+/g, '-')}.pdf"`,
    },
  });
}

async function policy(shop: Shop, c: Call<'shop' | 'id'>): Promise<void> {
  const s = await siteOf(shop, c);
  const { name, text } = policyText(await readRules(shop.ctx.store.db, s.row.id), c.params.id);
  await shop.page(c, s, name, new Html(richText(text) || escapeHtml(text)));
}
