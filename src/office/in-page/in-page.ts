/**
 * Runs in the owner's page while it is shown in the office (bench and miniatures): tells the office where marked
 * elements and widgets stand. It knows nothing of the office but its messages, and acts on none that would change the
 * page. The office checks that a message comes from its own frame.
 */
import { answerChecking } from './check/see';
import { answerMeasuring } from './look/ask';
import { tellMenu } from './menu';

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

const box = (el: Element): Box => {
  const r = el.getBoundingClientRect();
  return { x: r.left + scrollX, y: r.top + scrollY, w: r.width, h: r.height };
};

/** The page is measured, or looked at, when it is asked for; nothing else is told of it. */
const view = new URLSearchParams(location.search).get('stall');
const isMeasured = view === 'look' || view === 'check';

function postLayout(): void {
  if (isMeasured) return;
  const menu = document.querySelector('[data-stall-menu]');
  if (menu) return void tellMenu(menu);
  const anchors = [...document.querySelectorAll('[data-stall-n]')].map((el) => ({
    n: Number(el.getAttribute('data-stall-n')),
    ...box(el),
  }));
  const widgets = [...document.querySelectorAll('[placement],iframe[src*="via="],a[href*="via="]')]
    .filter((el) => el.localName.startsWith('stall-') || !el.closest('[placement]'))
    .map((el) => {
      const inner =
        el.localName === 'stall-buy' || el.localName === 'stall-cart'
          ? (el.shadowRoot?.querySelector('[part~=button],[part~=link]') ?? el.firstElementChild ?? el)
          : el;
      const id =
        el.getAttribute('placement') ??
        /[?&]via=([a-z0-9]+)/.exec(el.getAttribute('src') ?? el.getAttribute('href') ?? '')?.[1] ??
        '';
      return { id, ...box(inner) };
    });
  const spot = document.querySelector('[data-stall-spot]');
  parent.postMessage(
    {
      stall: 'layout',
      height: document.documentElement.scrollHeight,
      anchors,
      widgets,
      spot: spot ? box(spot) : null,
    },
    '*',
  );
}

let due = 0;
const soon = () => {
  clearTimeout(due);
  due = window.setTimeout(postLayout, 60);
};

// On the bench a click chooses; it never leaves the page.
addEventListener(
  'click',
  (e) => {
    if (!isMeasured && !document.querySelector('[data-stall-n],[data-stall-menu]')) return;
    e.preventDefault();
    e.stopImmediatePropagation();
  },
  true,
);
addEventListener('submit', (e) => e.preventDefault(), true);

// The owner's page is as it was: style sheets may speak of its first child.
document.currentScript?.remove();

if (isMeasured) {
  answerMeasuring();
  answerChecking();
}
new ResizeObserver(soon).observe(document.documentElement);
// The menu is measured by trying things out: hearing of that would never end.
if (!document.querySelector('[data-stall-menu]'))
  new MutationObserver(soon).observe(document.documentElement, { childList: true, subtree: true });
addEventListener('load', soon);
document.fonts.ready.then(soon, soon);
soon();
// Widgets dress after their data came: look again a few times, then rest.
for (const ms of [400, 1200, 3000]) setTimeout(postLayout, ms);
