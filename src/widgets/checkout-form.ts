import { nameParts } from './parts';
import { fieldsInText, textIn } from './answers';
import { sentBy, targetOf } from './events';
import { merge } from './merge';
import { fieldsOf, titleOf, ShopperError } from './shopper-error';

/**
 * The checkout's form as a person uses it: the sum is looked at whenever something it depends on was changed, nothing that was typed
 * is lost meanwhile, and pressing Pay counts once, also while a look at the sum is on its way.
 */
export interface CheckoutHost {
  /** Sends fields and returns the server's answer as it came. */
  readonly send: (to: string, fields: URLSearchParams, signal?: AbortSignal) => Promise<Response>;
  /** Leaves for the page of the provider, or for the thank-you. */
  readonly leave: (url: string) => void;
  readonly sorry: (error: unknown) => void;
}

export class CheckoutForm {
  #looking: Promise<void> | undefined;
  #asking: AbortController | undefined;
  #looked = '';
  #paying = false;
  #pointer: Promise<void> | undefined;

  constructor(
    readonly form: HTMLFormElement,
    readonly host: CheckoutHost,
    signal: AbortSignal,
  ) {
    this.#looked = this.#asked();
    form.addEventListener('change', (e) => this.#changed(targetOf(e)), { signal });
    form.addEventListener('input', (e) => forgive(targetOf(e)), { signal });
    form.addEventListener('submit', (e) => this.#submitted(e), { signal });
    // A button that moves away under a finger is not pressed: what an answer changes waits until the finger is up.
    form.addEventListener(
      'pointerdown',
      () => {
        this.#pointer = new Promise((up) => {
          const soon = () => setTimeout(up);
          addEventListener('pointerup', soon, { once: true, signal });
          addEventListener('pointercancel', soon, { once: true, signal });
        });
      },
      { signal },
    );
  }

  /** The fields that the sum depends on, as they stand. */
  #asked(): string {
    const asked = new URLSearchParams();
    for (const el of this.form.querySelectorAll<HTMLInputElement>('[data-look]'))
      if (el.type !== 'radio' || el.checked) asked.append(el.name, el.value);
    return asked.toString();
  }

  #fields(): URLSearchParams {
    return fieldsOf(new FormData(this.form));
  }

  #changed(field: HTMLElement): void {
    if (field.dataset.look !== undefined) void this.look();
  }

  /** Works the sum out for what stands in the form; a look that is under way and out of date is given up. */
  look(): Promise<void> {
    this.#asking?.abort();
    const asking = new AbortController();
    this.#asking = asking;
    const run = this.#look(asking.signal).catch((error: unknown) => {
      if (!asking.signal.aborted) this.host.sorry(error);
    });
    this.#looking = run;
    return run;
  }

  async #look(signal: AbortSignal): Promise<void> {
    const asked = this.#asked();
    const sent = new FormData(this.form);
    const to = this.form.querySelector<HTMLButtonElement>('[formaction]')?.formAction;
    if (!to) return;
    const answer = await this.host.send(to, fieldsOf(sent), signal);
    const text = await answer.text();
    if (!answer.ok) throw new ShopperError(titleOf(text));
    await this.#pointer;
    if (signal.aborted) return;
    this.#looked = asked;
    this.#put(text, { keepFaults: true, sent });
  }

  #put(text: string, rules: { keepFaults: boolean; sent: FormData }): void {
    const holder = document.createElement('template');
    holder.innerHTML = text;
    nameParts(holder.content);
    const next = holder.content.querySelector('form.stall-checkout');
    if (next) {
      for (const a of ['action', 'class']) this.form.setAttribute(a, next.getAttribute(a) ?? '');
      merge(this.form, next, rules);
    } else (this.form.getRootNode() as ShadowRoot).replaceChildren(holder.content);
  }

  #submitted(e: SubmitEvent): void {
    e.preventDefault();
    e.stopPropagation();
    const { button } = sentBy(e);
    if (button?.name !== 'order') return void this.look();
    void this.#pay(button);
  }

  /** Waits for the sum, then orders for the total that stood on the button: where it is another by now, the server says so. */
  async #pay(button: HTMLButtonElement): Promise<void> {
    if (this.#paying) return;
    this.#paying = true;
    button.ariaBusy = 'true';
    const total = this.form.querySelector<HTMLInputElement>('[name=total]')?.value ?? '';
    try {
      await this.#settled();
      const sent = new FormData(this.form);
      const fields = fieldsOf(sent);
      fields.set('total', total);
      fields.set('order', 'yes');
      const answer = await this.host.send(this.form.action, fields);
      const text = await answer.text();
      if (answer.headers.get('content-type')?.includes('json')) {
        const fields = fieldsInText(text);
        const url = textIn(fields, 'url');
        if (!url) throw new ShopperError(textIn(fields, 'title'));
        return this.host.leave(url);
      }
      this.#put(text, { keepFaults: false, sent });
      this.#looked = this.#asked();
      this.#showFault();
    } catch (error) {
      this.host.sorry(error);
    } finally {
      this.#paying = false;
      button.ariaBusy = null;
    }
  }

  /** The sum is that of what stands in the form. */
  async #settled(): Promise<void> {
    await this.#looking;
    if (this.#asked() !== this.#looked) await this.look();
  }

  /** The first field in error gets the focus; where none is, the sentence above is brought into view. */
  #showFault(): void {
    const field = this.form.querySelector<HTMLElement>('[aria-invalid]');
    if (field) return void field.focus();
    const alert = this.form.querySelector<HTMLElement>('[role=alert]');
    alert?.setAttribute('tabindex', '-1');
    alert?.focus();
  }

  /** What was typed, to be put back when this form is met again in this tab. */
  typed(): Record<string, string> {
    return Object.fromEntries(this.#fields());
  }

  /** Puts back what was typed; looks at the sum where it depends on it. */
  putBack(typed: Readonly<Record<string, string>>): void {
    for (const el of this.form.querySelectorAll<HTMLInputElement>('input,select,textarea')) {
      if (el.type === 'hidden') continue;
      if (el.type === 'radio' || el.type === 'checkbox') el.checked = typed[el.name] === el.value;
      else if (typed[el.name] !== undefined) el.value = typed[el.name] ?? '';
    }
    if (this.#asked() !== this.#looked) void this.look();
  }
}

/** A fault is no longer told at a field that is being put right. */
function forgive(field: HTMLElement): void {
  if (!field.hasAttribute('aria-invalid')) return;
  const message = (field.getRootNode() as ShadowRoot).getElementById(
    field.getAttribute('aria-describedby') ?? '',
  );
  message?.remove();
  field.removeAttribute('aria-invalid');
  field.removeAttribute('aria-describedby');
}
