import type { Payment } from './payment';

export const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

export function amountOf(p: Payment): string {
  const format = new Intl.NumberFormat('en-GB', { style: 'currency', currency: p.currency });
  return format.format(p.amount / 10 ** (format.resolvedOptions().maximumFractionDigits ?? 2));
}

/** A provider's own page around what it asks. @param ink its colour. */
export const shell = (
  p: Payment,
  what: string,
  { ink, paper }: { readonly ink: string; readonly paper: string },
  body: string,
): string => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Pay ${escaped(p.payee)}</title>
<style>
body{margin:0;background:${paper};color:#182338;font:16px/1.5 system-ui,sans-serif}
main{max-width:25rem;margin:0 auto;padding:2.5rem 1.25rem}
.test{background:#ffe8a3;color:#4d3900;padding:.5rem 1rem;margin:0;text-align:center;font-weight:600}
h1{font-size:1rem;font-weight:500;margin:0}h2{font-size:1rem}
.amount{font-size:2.3rem;font-weight:700;letter-spacing:-.02em;margin:0 0 .25rem}
form{background:#fff;border-radius:10px;padding:1.25rem;margin:1.25rem 0}
form.bare{background:none;padding:0}
label{display:block;font-size:.9rem;margin-bottom:.9rem}
input{box-sizing:border-box;display:block;width:100%;min-height:2.9rem;font:inherit;padding:.4rem .75rem;border:1px solid #71809b;border-radius:6px;margin-top:.25rem}
.two{display:grid;grid-template-columns:1fr 1fr;gap:1rem}
button{width:100%;min-height:3rem;border:0;border-radius:6px;background:${ink};color:#fff;font:600 1rem system-ui;cursor:pointer;margin-bottom:.5rem}
button.other{background:#fff;color:${ink};border:1px solid ${ink};font-weight:500}
button.quiet{background:none;color:${ink};margin-top:.4rem}
table{width:100%;border-collapse:collapse;font-size:.9rem}td{padding:.35rem 0;border-top:1px solid #c8d0de}td:first-child{font-family:ui-monospace,monospace;white-space:nowrap;padding-right:1rem}
.bad{color:#9c1c2e;font-weight:600}
:focus-visible{outline:3px solid ${ink};outline-offset:2px}
</style></head><body><p class="test">Make-believe ${what}: no money moves${p.test ? '. The shop is trying things out' : ''}</p><main>
<h1>To ${escaped(p.payee)}</h1><p class="amount">${escaped(amountOf(p))}</p><p>${escaped(p.description)}</p>
${body}
</main></body></html>`;
