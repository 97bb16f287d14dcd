import { printPage } from '../../core/papers/print';
import { escapeHtml } from '../../core/html/escape';
import { Html } from '../../core/storefront/html';
import type { Ctx } from '../../services/context';
import { richText } from '../../services/goods/rich-text';
import { documentPaper } from '../../services/papers/papers';
import { pdfOf } from '../../services/papers/pdf';
import { loadSite } from '../../services/sites/site';
import { policyText } from '../../services/till/policies';
import { readRules } from '../../services/till/rules';
import { send } from '../http';
import { type Call, route } from '../router';
import { ordinaryPage } from './ordinary-page';

/** Papers of an order, for whoever has its address; and the texts a buyer agrees to. */
export function paperRoutes(ctx: Ctx) {
  const site = (c: Call) => loadSite(ctx, { slug: c.params.shop ?? '' });
  const page = ordinaryPage(ctx);
  const paper = async (c: Call) => documentPaper(ctx, await site(c), c.params.id ?? '', c.params.order ?? '');

  const print = async (c: Call) => {
    const { paper: p } = await paper(c);
    send(c.res, {
      status: 200,
      type: 'text/html; charset=utf-8',
      body: printPage([p], `${c.url.pathname}/pdf`),
      headers: {
        'cache-control': 'no-store',
        'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
        'referrer-policy': 'no-referrer',
      },
    });
  };
  const pdf = async (c: Call) => {
    const { paper: p, name } = await paper(c);
    send(c.res, {
      status: 200,
      type: 'application/pdf',
      body: await pdfOf([p]),
      headers: {
        'cache-control': 'no-store',
        'content-disposition': `inline; filename="${name.replace(/[^\w.-]+/g, '-')}.pdf"`,
      },
    });
  };
  const policy = async (c: Call) => {
    const s = await site(c);
    const { name, text } = policyText(await readRules(ctx.store.db, s.row.id), c.params.id ?? '');
    await page(c, s, name, new Html(richText(text) || escapeHtml(text)));
  };
  return [
    route('GET', '/:shop/papers/:order/:id', print),
    route('GET', '/:shop/papers/:order/:id/pdf', pdf),
    route('GET', '/:shop/policies/:id', policy),
  ];
}
