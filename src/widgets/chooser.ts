import type { PageData } from './page-data';

/** As the server wrote it: id, places of its values, price, price before, words on stock, sold out, most, picture. */
type Row = readonly [
  id: string,
  at: readonly number[],
  price: string,
  was: string,
  stock: string,
  out: 0 | 1,
  most: number,
  picture: number,
];

/**
 * A product's page comes to life: a press on a choice shows its price, stock and picture at once and crosses out what cannot
 * be had with it; pictures change by press and by arrow keys; a film is loaded when it is asked for; amounts go in by a press.
 */
export function chooser(root: ParentNode, words: PageData['words'] | undefined): void {
  for (const product of root.querySelectorAll<HTMLElement>('[data-card]')) {
    const show = gallery(product);
    const form = product.querySelector<HTMLFormElement>('form[data-variants]');
    if (form) options(product, form, show, words);
    product.querySelector('[data-film]')?.addEventListener('click', (e) => film(e as MouseEvent));
    for (const b of product.querySelectorAll<HTMLElement>('[data-amount]'))
      b.addEventListener('click', () => {
        const field = b.closest('form')?.querySelector<HTMLInputElement>('[name=amount]');
        if (field) field.value = b.dataset.amount ?? '';
      });
  }
}

function options(
  product: HTMLElement,
  form: HTMLFormElement,
  show: (n: number) => void,
  words: PageData['words'] | undefined,
): void {
  const rows = JSON.parse(form.dataset.variants ?? '[]') as Row[];
  const sets = choicesIn(form, words);
  const tellRow = rowTeller(product, form);
  const update = () => {
    const chosen = sets.map((set) => set.chosen());
    for (const [n, set] of sets.entries())
      for (let x = 0; x < set.size; x++)
        set.mark(
          x,
          rows.some((r) => canBeHad(r, n, x, chosen)),
        );
    const row = chosen.includes(-1) ? undefined : rows.find((r) => r[1].every((y, o) => y === chosen[o]));
    tellRow(row);
    if (row && row[7] >= 0) show(row[7]);
  };
  form.addEventListener('change', update);
  update();
}

/** Whether a row has value `x` of choice `n`, is not sold out, and goes with what else is chosen; -1 is not chosen yet. */
const canBeHad = (row: Row, n: number, x: number, chosen: readonly number[]): boolean =>
  !row[5] && row[1][n] === x && row[1].every((y, o) => o === n || chosen[o] === -1 || chosen[o] === y);

/** Writes price, stock and most pieces of a row into the page; what stood there first where no row is chosen. */
function rowTeller(product: HTMLElement, form: HTMLFormElement): (row: Row | undefined) => void {
  const price = product.querySelector<HTMLElement>('[data-price]');
  const from = price?.innerHTML ?? '';
  const stock = product.querySelector<HTMLElement>('[data-stock]');
  const left = stock?.textContent ?? '';
  const quantity = form.querySelector<HTMLInputElement>('[name=quantity]');
  return (row) => {
    const button = form.querySelector<HTMLButtonElement>('button.stall-button');
    if (button) button.disabled = row?.[5] === 1;
    if (stock) stock.textContent = row ? row[4] : left;
    if (quantity) quantity.max = String(row?.[6] || 99);
    if (price && row) writePrice(price, row[2], row[3]);
    else if (price) price.innerHTML = from;
  };
}

function writePrice(into: HTMLElement, price: string, before: string): void {
  into.textContent = price;
  if (!before) return;
  const was = document.createElement('s');
  was.className = 'stall-was';
  was.textContent = before;
  into.append(' ', was);
}

/** One choice of a form, whether it is asked by radio buttons or by a list. */
interface Choice {
  readonly size: number;
  /** Place of the chosen value; -1 while nothing is chosen. */
  readonly chosen: () => number;
  /** Says whether a value can be had with what else is chosen. */
  readonly mark: (place: number, can: boolean) => void;
}

function choicesIn(form: HTMLFormElement, words: PageData['words'] | undefined): Choice[] {
  const note = (can: boolean) => (can ? '' : ` (${words?.notHad ?? ''})`);
  const radios = [...form.querySelectorAll('fieldset')].map((set): Choice => {
    const inputs = [...set.querySelectorAll('input')];
    return {
      size: inputs.length,
      chosen: () => inputs.findIndex((i) => i.checked),
      mark: (place, can) => {
        inputs[place]?.closest('label')?.classList.toggle('stall-not', !can);
        const out = inputs[place]?.parentElement?.querySelector('[data-out]');
        if (out) out.textContent = note(can);
      },
    };
  });
  const lists = [...form.querySelectorAll<HTMLSelectElement>('.stall-picks select')].map(
    (list): Choice => ({
      // The first entry is the name of the choice.
      size: list.options.length - 1,
      chosen: () => list.selectedIndex - 1,
      mark: (place, can) => {
        const option = list.options[place + 1];
        if (option) option.text = option.value + note(can);
      },
    }),
  );
  return [...radios, ...lists];
}

function gallery(product: HTMLElement): (n: number) => void {
  const large = product.querySelector<HTMLImageElement>('[data-large]');
  const thumbs = [...product.querySelectorAll<HTMLAnchorElement>('[data-show]')];
  const show = (n: number) => {
    const to = thumbs[n];
    if (!large || !to) return;
    large.srcset = to.dataset.set ?? '';
    large.src = to.href;
    large.alt = to.dataset.alt ?? '';
    const small = to.querySelector('img');
    for (const axis of ['x', 'y'] as const) large.dataset[axis] = small?.dataset[axis] ?? '5';
    for (const t of thumbs) t.toggleAttribute('aria-current', t === to);
    to.setAttribute('aria-current', 'true');
  };
  for (const [n, thumb] of thumbs.entries()) {
    thumb.addEventListener('click', (e) => {
      e.preventDefault();
      show(n);
    });
    thumb.addEventListener('keydown', (e) => {
      const to = n + ({ ArrowRight: 1, ArrowLeft: -1 }[e.key] ?? 0);
      if (to === n || !thumbs[to]) return;
      e.preventDefault();
      thumbs[to]?.focus();
      show(to);
    });
  }
  if (large && thumbs.length)
    swipe(
      large,
      () => thumbs.findIndex((t) => t.hasAttribute('aria-current')),
      (n) => show((n + thumbs.length) % thumbs.length),
    );
  return show;
}

/** A finger that goes a good way to the side turns the picture; one that goes down scrolls the page. */
function swipe(on: HTMLElement, at: () => number, to: (n: number) => void): void {
  let from: Touch | undefined;
  on.addEventListener('touchstart', (e) => void (from = e.changedTouches[0]), { passive: true });
  on.addEventListener(
    'touchend',
    (e) => {
      const end = e.changedTouches[0];
      if (!from || !end) return;
      const [x, y] = [end.clientX - from.clientX, end.clientY - from.clientY];
      if (Math.abs(x) > 40 && Math.abs(x) > 2 * Math.abs(y)) to(at() + (x < 0 ? 1 : -1));
    },
    { passive: true },
  );
}

/** Files play here; a film on another site opens there, in a window of its own. */
function film(e: MouseEvent): void {
  const link = e.currentTarget as HTMLAnchorElement;
  if (!/\.(mp4|webm|ogv|m4v)([?#]|$)/i.test(link.href)) return;
  e.preventDefault();
  const video = document.createElement('video');
  video.controls = true;
  video.src = link.href;
  link.parentElement?.replaceChildren(video);
  void video.play().catch(() => {});
}
