/** The element that an event began at; of a drawing inside a button, what it stands in. */
export function targetOf(e: Event): HTMLElement {
  for (let at = e.target instanceof Element ? e.target : null; at; at = at.parentElement)
    if (at instanceof HTMLElement) return at;
  return document.documentElement;
}

/** The form that is sent, and the button that sends it; nothing where a script sends it. */
export function sentBy(e: SubmitEvent): { form: HTMLFormElement; button: HTMLButtonElement | null } {
  if (!(e.target instanceof HTMLFormElement)) throw new TypeError('only forms are sent');
  return { form: e.target, button: e.submitter instanceof HTMLButtonElement ? e.submitter : null };
}

/** What an error says to people; '' where it was none of ours. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : '');

/** Listens for forms that are sent inside a root, which are told as events of no kind of their own there. */
export function onSubmit(
  root: ShadowRoot | HTMLElement,
  listener: (e: SubmitEvent) => void,
  signal: AbortSignal,
): void {
  root.addEventListener('submit', (e) => e instanceof SubmitEvent && listener(e), { signal });
}
export function onClick(
  root: ShadowRoot | HTMLElement,
  listener: (e: MouseEvent) => void,
  signal: AbortSignal,
): void {
  root.addEventListener('click', (e) => e instanceof MouseEvent && listener(e), { signal });
}
