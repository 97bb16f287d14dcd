/** It brings its own ground: headers are dark as often as light. In the corner it lies over anything, so it has an edge there. Below 54rem the icon alone, with the count on it; the room for either is kept by the element's own style. */
export const cartSignCss = `:host([hidden]){display:none!important}:host([aside]){position:fixed!important;right:1rem;bottom:1rem;z-index:9}:host([popover]){inset:auto 1rem 1rem auto;margin:0;border:0;padding:0;overflow:visible;background:none}:host([aside]) a,:host([style*=fixed]) a{box-shadow:0 1px 6px #0006}
a{box-sizing:border-box;position:relative;display:inline-flex;align-items:center;justify-content:center;gap:.5em;min-width:100%;height:2.75rem;padding:0 .6em;border-radius:var(--stall-radius);background:var(--stall-sign-ground,var(--stall-ink));color:var(--stall-sign-ink,var(--stall-ground));font-weight:500;line-height:1;text-decoration:none;white-space:nowrap}
a:hover{background:var(--stall-over);color:var(--stall-over-ink)}
a:focus-visible{outline:3px solid var(--stall-focus);outline-offset:2px}svg{flex:none;width:var(--stall-sign-size,22px);height:var(--stall-sign-size,22px)}
b{font-weight:inherit}b:not(:empty)::before{content:"\\b7\\a0"}
a[data-count=on] b:not(:empty),a[data-count=in] b:not(:empty){position:absolute;top:.1rem;right:.1rem;min-width:1.25rem;border-radius:1rem;background:var(--stall-accent);color:var(--stall-accent-ink);font:700 .75rem/1.25rem var(--stall-font);text-align:center}a[data-count=in] b:not(:empty){inset:auto;left:.6em;top:1.35rem;width:var(--stall-sign-size,22px);min-width:0;background:none;color:inherit}a[data-count=on] b::before,a[data-count=in] b::before{content:none!important}
@media(max-width:54rem){a,a:hover{background:var(--stall-sign-ground,var(--stall-ground));color:var(--stall-sign-ink,var(--stall-ink));min-width:2.75rem;padding:0}span{position:absolute;right:0;top:.1rem}i{display:none}
b:not(:empty){display:block;min-width:1.25rem;border-radius:1rem;background:var(--stall-accent);color:var(--stall-accent-ink);font:700 .75rem/1.25rem var(--stall-font);text-align:center}b:not(:empty)::before{content:none}}
i{font-style:normal}span{display:inline-flex;gap:.3em}`;

/** The signs of the cart: our own drawings, on a ground of 26 by 26. */
const signs: Readonly<Record<string, string>> = {
  basket:
    '<path d="M3 11h20l-2.6 12H5.6z" stroke-linejoin="round"/><path d="M8 11C8 1 18 1 18 11M7.6 15.5h10.8M8.4 19h9.2"/>',
  bag: '<path d="M5.5 8.5h15l1.6 14.2H3.9z" stroke-linejoin="round"/><path d="M9.4 11.5C8.6 1.6 17.4 1.6 16.6 11.5"/>',
  crate:
    '<path d="M3.4 9h19.2v13.2H3.4zM3.4 13.4h19.2M3.4 17.8h19.2M7.4 9v13.2M18.6 9v13.2" stroke-linejoin="round"/>',
  barrow:
    '<path d="M2.5 6.5h4.2l3 9.2h10.6l2.4-7H8" stroke-linejoin="round"/><circle cx="14.8" cy="20.4" r="2.9"/><path d="M9.7 15.7l-3 5.6"/>',
};
/** @param sign the name of a drawing; the basket for what is none */
export const cartSign = (sign: string): string =>
  `<svg viewBox="0 0 26 26" fill="none" stroke="currentColor" stroke-width="1.9" aria-hidden="true">${signs[sign] ?? signs.basket}</svg>`;
