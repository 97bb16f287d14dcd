/**
 * Puts an answer of the server's into a page while somebody is writing there. Only what differs is changed: elements that stay the
 * same stay the same objects, so that focus, caret and everything typed meanwhile are kept. Elements are the same when they have the
 * same key (`data-key`, `data-live`, `id`) and the same name; without a key, when they stand at the same place.
 */
export interface MergeRules {
  /** Faults that are shown at fields stay, unless the answer brings one of its own there. */
  readonly keepFaults: boolean;
  /** What stood in the form when it was sent: where something else stands now, somebody has changed it since. */
  readonly sent: FormData | undefined;
}

export function merge(live: Element | ShadowRoot, answer: ParentNode, rules: MergeRules): void {
  const root = live instanceof ShadowRoot ? live : (live.getRootNode() as ShadowRoot | Document);
  const held = heldIn(root);
  mergeChildren(live, answer, rules);
  giveBack(root, held);
}

function mergeChildren(live: ParentNode & Node, answer: ParentNode, rules: MergeRules): void {
  const keyed = new Map([...live.children].flatMap((el) => (keyOf(el) ? [[keyOf(el), el] as const] : [])));
  let at: ChildNode | null = live.firstChild;
  for (const next of [...answer.childNodes] as ChildNode[]) {
    const found: ChildNode | null = counterpart(next, at, keyed);
    if (!found) {
      live.insertBefore(next, at);
      continue;
    }
    if (found === at) at = at.nextSibling;
    else live.insertBefore(found, at);
    mergeNode(found, next, rules);
  }
  while (at) {
    const gone: ChildNode = at;
    at = at.nextSibling;
    if (!(rules.keepFaults && isFault(gone))) gone.remove();
  }
}

/** What stands for a node of the answer in the page; nothing when it is new. */
function counterpart(
  next: ChildNode,
  at: ChildNode | null,
  keyed: ReadonlyMap<string, Element>,
): ChildNode | null {
  if (!(next instanceof Element)) return at?.nodeType === next.nodeType ? at : null;
  const key = keyOf(next);
  if (key) return alike(keyed.get(key), next);
  const here = at instanceof Element ? at : null;
  return here && !keyOf(here) ? alike(here, next) : null;
}

const alike = (live: Element | undefined, next: Element): Element | null =>
  live?.localName === next.localName ? live : null;

const keyOf = (el: Element): string => el.getAttribute('data-key') ?? el.getAttribute('data-live') ?? el.id;

const isFault = (node: Node): boolean => node instanceof Element && node.matches('.stall-error');

function mergeNode(live: ChildNode, next: ChildNode, rules: MergeRules): void {
  if (!(live instanceof Element) || !(next instanceof Element)) {
    if (live.nodeValue !== next.nodeValue) live.nodeValue = next.nodeValue;
    return;
  }
  const meant = live.getAttribute('value');
  mergeAttributes(live, next, rules);
  if (isControl(live) && isControl(next)) mergeControl(live, next, meant, rules);
  else mergeChildren(live, next, rules);
}

/** Attributes that show a fault at a field. */
const FAULT = new Set(['aria-invalid', 'aria-describedby']);

/** What a field keeps in attributes is where it began, not what stands in it now. The value of a box to tick is what it means. */
const isState = (el: Element, name: string): boolean =>
  isControl(el) &&
  (name === 'checked' || (name === 'value' && el.type !== 'checkbox' && el.type !== 'radio'));

function mergeAttributes(live: Element, next: Element, rules: MergeRules): void {
  for (const { name } of [...live.attributes]) {
    const kept = isState(live, name) || name === 'aria-busy' || (rules.keepFaults && FAULT.has(name));
    if (!next.hasAttribute(name) && !kept) live.removeAttribute(name);
  }
  for (const { name, value } of [...next.attributes])
    if (!isState(live, name) && live.getAttribute(name) !== value) live.setAttribute(name, value);
}

type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

const isControl = (el: Element): el is Control => el.matches('input,select,textarea');

/** What somebody wrote or chose stands; what the server alone decides comes from the answer. */
function mergeControl(live: Control, next: Control, meant: string | null, { sent }: MergeRules): void {
  if (live instanceof HTMLSelectElement) {
    const chosen = live.value;
    if (choicesOf(live) !== choicesOf(next)) live.innerHTML = next.innerHTML;
    live.value = chosen;
    return;
  }
  if (!(live instanceof HTMLInputElement && next instanceof HTMLInputElement)) return;
  if (live.type === 'hidden') live.value = next.value;
  // Another version of a text is another text: nobody has agreed to it yet.
  if (live.type === 'checkbox' && meant !== next.value) live.checked = next.checked;
  if (live.type !== 'radio') return;
  const chosen = live.form ? new FormData(live.form).get(live.name) : null;
  if (chosen === null || chosen === (sent?.get(live.name) ?? null)) live.checked = next.checked;
}

const choicesOf = (select: Element): string => select.innerHTML.replaceAll(' selected=""', '');

interface Held {
  readonly element: HTMLElement;
  readonly key: string;
  readonly caret: readonly [number, number] | undefined;
}

/** What has the focus, and where its caret is: an element that is moved to another place loses both. */
function heldIn(root: DocumentOrShadowRoot): Held | undefined {
  const element = root.activeElement;
  if (!(element instanceof HTMLElement)) return undefined;
  const caret =
    element instanceof HTMLInputElement && element.selectionStart !== null
      ? ([element.selectionStart, element.selectionEnd ?? element.selectionStart] as const)
      : undefined;
  return { element, key: element.id, caret };
}

function giveBack(root: DocumentOrShadowRoot & ParentNode, held: Held | undefined): void {
  if (!held || root.activeElement === held.element) return;
  const drawnAgain = held.key ? root.querySelector<HTMLElement>(`#${CSS.escape(held.key)}`) : null;
  const again = held.element.isConnected ? held.element : drawnAgain;
  again?.focus({ preventScroll: true });
  if (again === held.element && held.caret && again instanceof HTMLInputElement)
    again.setSelectionRange(...held.caret);
}
