import { targetOf } from './events';
import { chooser } from './chooser';
import type { PageData } from './page-data';
import { taken } from './shared';
import type { StallElement } from './stall-element';

const { apiOf } = taken();

/**
 * A quick look at a product: a modal dialog of the browser's own, inside the widget's shadow root, so that it wears the
 * look, its forms are sent by the widget, and focus goes back to the card when it closes.
 */
export async function openGlance(
  from: StallElement,
  button: HTMLElement,
  words: PageData['words'] | undefined,
): Promise<void> {
  const root = from.shadowRoot;
  if (!root || button.ariaBusy) return;
  button.ariaBusy = 'true';
  const query = new URLSearchParams({ lang: from.getAttribute('lang') ?? '' });
  const answer = await fetch(
    `${apiOf(from.shop)}/glance/${encodeURIComponent(button.dataset.glance ?? '')}?${query}`,
  ).catch(() => undefined);
  button.ariaBusy = null;
  // Without an answer the product's own page is as good.
  if (!answer?.ok) return void button.parentElement?.querySelector('a')?.click();
  const dialog = document.createElement('dialog');
  dialog.className = 'stall-look';
  dialog.part.add('glance');
  const close = document.createElement('button');
  close.type = 'button';
  close.className = 'stall-shut';
  close.setAttribute('aria-label', words?.close ?? '');
  close.textContent = '\u00d7';
  const box = document.createElement('div');
  box.innerHTML = await answer.text();
  const title = box.querySelector('h2');
  if (title) title.id = 'stall-look';
  dialog.setAttribute('aria-labelledby', 'stall-look');
  // The link to the whole page leads where the card's own link does.
  for (const link of box.querySelectorAll<HTMLAnchorElement>('a[data-goods]'))
    link.href = button.parentElement?.querySelector('a')?.href ?? link.href;
  dialog.append(close, box);
  root.append(dialog);
  chooser(dialog, words);
  close.addEventListener('click', () => dialog.close());
  dialog.addEventListener('click', (e) => {
    // A press beside the box lands on the dialog itself; one on a link leads away from it.
    if (e.target === dialog || targetOf(e).closest('a[data-goods]')) dialog.close();
  });
  dialog.addEventListener('close', () => {
    dialog.remove();
    button.focus({ preventScroll: true });
  });
  dialog.showModal();
}
