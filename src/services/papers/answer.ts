import type { Paper } from '../../core/papers/paper';
import { printPage } from '../../core/papers/print';
import { pdfOf } from './pdf';

/** Papers as an answer to a browser: a page to print, or a PDF where the address asks for one. Nothing in it runs or loads. */
export async function answer(papers: readonly Paper[], name: string, url: URL): Promise<Response> {
  const headers = {
    'cache-control': 'no-store',
    'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
  };
  if (url.searchParams.has('pdf'))
    return new Response(new Uint8Array(await pdfOf(papers)), {
      headers: {
        ...headers,
        'content-type': 'application/pdf',
        'content-disposition': `inline; filename="${name.replace(/[^\w.-]+/g, '-')}.pdf"`,
      },
    });
  const pdf = new URL(url);
  pdf.searchParams.set('pdf', '1');
  return new Response(printPage(papers, pdf.pathname + pdf.search), {
    headers: { ...headers, 'content-type': 'text/html; charset=utf-8' },
  });
}
