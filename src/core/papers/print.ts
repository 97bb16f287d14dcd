import { html } from '../storefront/html';
import type { Paper } from './paper';

/** What every paper has; its colours and faces are the shop's where they are known. */
const style = `@page{margin:18mm}body{font:10.5pt/1.45 "DejaVu Sans",Verdana,sans-serif;color:#1c211d;max-width:46rem;margin:2rem auto;padding:0 1rem}
h1{font-size:20pt;line-height:1.2;margin:0 0 .6rem}header{display:grid;grid-template-columns:1fr 1fr;gap:2rem;margin-bottom:2rem}address{font-style:normal;white-space:pre-line}
dl{display:grid;grid-template-columns:auto 1fr;gap:.1rem 1rem;margin:0}dt{color:#555}dd{margin:0}
table{width:100%;border-collapse:collapse;margin:1rem 0}th{text-align:left;font-weight:600;border-bottom:2px solid #1c211d}th,td{padding:.4rem .5rem .4rem 0;vertical-align:top}td{border-bottom:1px solid #c9c9c2}.r{text-align:right;padding-right:0;white-space:nowrap}
.sums{margin-left:auto;width:auto;min-width:45%}.sums td{border:0;padding:.15rem 0 .15rem 1rem}.sums tr:last-child td{font-weight:700;border-top:2px solid #1c211d;padding-top:.4rem}
article+article{break-before:page;margin-top:3rem}.notes{color:#444}@media print{body{margin:0;max-width:none}.act{display:none}}`;

/** One or more papers as a page that prints well: no scripts, nothing loaded from anywhere. */
export function printPage(papers: readonly Paper[], pdf = ''): string {
  const first = papers[0];
  const page = html`<html lang="${first?.lang ?? 'en'}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex"><title>${first?.title ?? ''}</title><style>${html([style + worn(first?.look)] as unknown as TemplateStringsArray)}</style></head><body>${pdf && html`<p class="act"><a href="${pdf}">PDF</a></p>`}${papers.map(one)}</body></html>`;
  return `<!doctype html>${page.text}`;
}

/** Its values are those of the look, which hold nothing that could end a style. */
function worn(look: Paper['look']): string {
  if (!look) return '';
  const { font, headingFont, ink, mark, line } = look;
  return `body{font-family:${font};color:${ink}}h1{font-family:${headingFont}}th{border-color:${mark}}td{border-color:${line}}.sums tr:last-child td{border-color:${mark}}a{color:${mark}}`;
}

const one = (
  p: Paper,
) => html`<article><header><div><h1>${p.title}</h1><dl>${p.facts.map((f) => html`<dt>${f.label}</dt><dd>${f.value}</dd>`)}</dl></div><address>${p.from.join('\n')}</address></header>
<address>${p.to.join('\n')}</address>
<table><thead><tr>${p.columns.map((c) => html`<th scope="col"${c.right && html` class="r"`}>${c.name}</th>`)}</tr></thead><tbody>${p.rows.map((r) => html`<tr>${r.map((cell, n) => html`<td${p.columns[n]?.right && html` class="r"`}>${cell}</td>`)}</tr>`)}</tbody></table>
${p.sums.length > 0 && html`<table class="sums"><tbody>${p.sums.map((s) => html`<tr><td>${s.label}</td><td class="r">${s.value}</td></tr>`)}</tbody></table>`}${p.notes.map((n) => html`<p class="notes">${n}</p>`)}</article>`;
