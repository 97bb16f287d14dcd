import { useQuery } from '@tanstack/react-query';
import { useLayoutEffect, useMemo, useRef } from 'react';
import { groundsCss, type Look, lookCss, shapeIn } from '../../core/look/look';
import { cartSign, cartSignCss } from '../../core/storefront/cart-sign';
import { readOwnCss } from '../../core/storefront/own-css';
import css from '../../core/storefront/storefront.css?raw';
import type { LookSample } from '../../services/storefront/look-sample';
import { call, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { sample as say } from '../words/look';
import { type LookAct, type LookState, type SamplePart, sampleParts } from './look-state';
import { useSiteFaces } from './site-faces';

interface Props {
  readonly look: Look;
  readonly state: LookState;
  readonly act: (act: LookAct) => void;
}

const names: Readonly<Record<SamplePart, string>> = {
  row: say.cards,
  product: say.product,
  cart: say.cart,
  checkout: say.checkout,
};

/** The shop's own fragments in the look as it is now: what a hand changes is seen before it has let go. */
export function Sample({ look, state, act }: Props) {
  const { site } = useBoot();
  const { data } = useQuery({
    queryKey: viewKey('look-sample'),
    queryFn: () => call(site.slug, 'GET look/sample'),
    staleTime: 60_000,
  });
  const grounds = groundsOf(look);
  return (
    <section className="lk-sample" aria-label={say.liveSample}>
      <header>
        <fieldset className="seg" aria-label={say.whatIsShown}>
          {sampleParts.map((part) => (
            <button
              key={part}
              type="button"
              aria-pressed={state.part === part}
              onClick={() => act({ do: 'show', sample: { part } })}
            >
              {names[part]}
            </button>
          ))}
        </fieldset>
        <div className="on">
          <label>
            {say.on}
            <select
              value={state.ground}
              onChange={(e) => act({ do: 'show', sample: { ground: e.target.value } })}
            >
              <option value="">{say.pageGround}</option>
              {grounds.map((colour) => (
                <option key={colour} value={colour}>
                  {say.band(colour.toUpperCase())}
                </option>
              ))}
            </select>
          </label>
          {look.dark && (
            <label>
              <input
                type="checkbox"
                checked={state.night}
                onChange={(e) => act({ do: 'show', sample: { night: e.target.checked } })}
              />
              {say.dark}
            </label>
          )}
          <button
            type="button"
            className="btn small"
            aria-pressed={state.isLarge}
            onClick={() => act({ do: 'show', sample: { isLarge: !state.isLarge } })}
          >
            {state.isLarge ? say.smaller : say.larger}
          </button>
          <a className="btn small" href={site.draftUrl} target="_blank" rel="noopener">
            {say.inMyPages}
          </a>
        </div>
      </header>
      <CartInHeader look={look} state={state} />
      {data ? (
        <Dressed html={htmlOf(data, state.part)} look={look} state={state} />
      ) : (
        <p className="note">{say.comes}</p>
      )}
      {data && !data.own && <p className="note">{say.notYourOwnGoods}</p>}
    </section>
  );
}

/** The sign of the cart as a header would hold it. */
function CartInHeader({ look, state }: { look: Look; state: LookState }) {
  const shape = useMemo(() => shapeIn(look), [look]);
  const host = useRef<HTMLDivElement>(null);
  const faces = useSiteFaces();
  useLayoutEffect(() => {
    const root = host.current?.shadowRoot ?? host.current?.attachShadow({ mode: 'open' });
    if (!root) return;
    root.innerHTML = `<div class="sheet sign" inert><a href="#" data-count="${shape['sign-count']}">${cartSign(shape.sign)}<span><i>${say.cart}</i><b>2</b></span></a></div>`;
    root.adoptedStyleSheets = [sheetOf(root, 0), sheetOf(root, 1)];
    sheetOf(root, 1).replaceSync(
      `${cartSignCss.replace(/@media[\s\S]*?content:none\}\}/, '')}.sign{padding:8px 20px;text-align:end}.sign a{min-width:2.75rem}`,
    );
  }, [shape]);
  useLayoutEffect(() => {
    const root = host.current?.shadowRoot;
    if (root) sheetOf(root, 0).replaceSync(sampleCss(look, state, faces).replace('min-height:100%', ''));
  }, [look, state, faces]);
  return <div ref={host} />;
}

const groundsOf = (look: Look): string[] => look.grounds.map((g) => g.colour);

/** A cart is a part of the sample as the goods are: each fragment has a heading of its own kind. */
const htmlOf = (data: LookSample, part: SamplePart): string => data[part];

/** The widths that the larger sample stands at side by side, in px, and how large each is drawn. */
const wide = [
  { width: 1080, scale: 0.53 },
  { width: 390, scale: 1 },
] as const;

function Dressed({ html, look, state }: { html: string; look: Look; state: LookState }) {
  if (!state.isLarge) return <Shadow html={html} look={look} state={state} />;
  return (
    <div className="larger">
      {wide.map(({ width, scale }) => (
        <figure key={width} style={{ width, zoom: scale }}>
          <figcaption className="mono">{say.px(width)}</figcaption>
          <Shadow html={html} look={look} state={state} />
        </figure>
      ))}
    </div>
  );
}

/** The look as a style sheet of a shadow root: nothing is drawn anew when it changes, only styled. */
function Shadow({ html, look, state }: { html: string; look: Look; state: LookState }) {
  const host = useRef<HTMLDivElement>(null);
  const faces = useSiteFaces();
  const own = useMemo(() => readOwnCss(look.css).onPages.replace(/^\.stall\{|\}$/g, ''), [look.css]);
  useLayoutEffect(() => {
    const root = host.current?.shadowRoot ?? host.current?.attachShadow({ mode: 'open' });
    if (!root) return;
    root.innerHTML = `<div class="sheet" inert><div class="room">${html}</div></div>`;
    root.adoptedStyleSheets = [sheetOf(root, 0), sheetOf(root, 1), sheetOf(root, 2)];
    sheetOf(root, 1).replaceSync(css);
  }, [html]);
  useLayoutEffect(() => {
    const root = host.current?.shadowRoot;
    if (!root) return;
    sheetOf(root, 0).replaceSync(sampleCss(look, state, faces));
    sheetOf(root, 2).replaceSync(own);
  }, [look, state, faces, own]);
  // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys
  return <section className="lk-shadow" ref={host} tabIndex={0} aria-label={say.asShoppersSeeIt} />;
}

/** The look, the shop's own style, the owner's own CSS. */
const sheets = new WeakMap<ShadowRoot, readonly [CSSStyleSheet, CSSStyleSheet, CSSStyleSheet]>();
function sheetOf(root: ShadowRoot, n: 0 | 1 | 2): CSSStyleSheet {
  const known =
    sheets.get(root) ?? ([new CSSStyleSheet(), new CSSStyleSheet(), new CSSStyleSheet()] as const);
  sheets.set(root, known);
  return known[n];
}

/** The office's own rem is 16 px, so that the site's measures are told in px of a browser that is set as usual. */
function sampleCss(look: Look, state: LookState, faces: (families: string) => string): string {
  const night =
    state.night && look.dark
      ? { ...look, tokens: { ...look.tokens, ...look.dark.tokens }, grounds: look.dark.grounds }
      : look;
  const here = { ...night, root: 16 };
  const [, band = ''] = groundsCss(here).find(([colour]) => colour === state.ground) ?? [];
  const tokens = Object.fromEntries(
    Object.entries(here.tokens).map(([name, value]) => [name, name.endsWith('font') ? faces(value) : value]),
  );
  return `:host{${lookCss({ ...here, tokens })};${band};all:initial;display:block;font-family:var(--stall-font);font-size:${here.size}px;line-height:1.5;color:var(--stall-ink)}
.sheet{background:var(--stall-ground);color:var(--stall-ink);padding:18px 20px 28px;min-height:100%}.room{container-type:inline-size}.stall-by-hand{display:none}`;
}
