/**
 * How many of a line: presses that come faster than the server answers are all counted. What is wanted stands there at once; it is sent
 * when the answer to what was sent before has come.
 */
export class CartSteps {
  readonly #wanted = new Map<string, number>();
  readonly #sending = new Set<string>();

  /** @param send puts a number of pieces of a line into the cart and shows what the server says. */
  constructor(readonly send: (to: string, quantity: number) => Promise<void>) {}

  /** A press of a button in a line's form. */
  press(form: HTMLFormElement, button: HTMLButtonElement): void {
    const shown = Number(form.querySelector('output')?.textContent ?? 0);
    const now = this.#wanted.get(form.action) ?? shown;
    const next = button.value === '0' ? 0 : now + Math.sign(Number(button.value) - shown);
    const most = form.dataset.most === undefined ? Number.POSITIVE_INFINITY : Number(form.dataset.most);
    const wanted = next > now ? Math.max(now, Math.min(next, most)) : Math.max(0, next);
    if (wanted === now) return;
    this.#wanted.set(form.action, wanted);
    this.show(form);
    void this.#run(form.action);
  }

  /** Shows in a form what is wanted of its line, where that is not what the server said. */
  show(form: HTMLFormElement): void {
    const wanted = this.#wanted.get(form.action);
    const output = form.querySelector('output');
    if (wanted === undefined || !output) return;
    output.textContent = String(wanted);
    const [fewer, more] = form.querySelectorAll<HTMLButtonElement>('.stall-stepper button');
    if (fewer) fewer.value = String(wanted - 1);
    if (more) more.value = String(wanted + 1);
  }

  async #run(to: string): Promise<void> {
    if (this.#sending.has(to)) return;
    this.#sending.add(to);
    try {
      for (let sent: number | undefined; sent !== this.#wanted.get(to); ) {
        sent = this.#wanted.get(to) ?? 0;
        await this.send(to, sent);
      }
    } finally {
      this.#wanted.delete(to);
      this.#sending.delete(to);
    }
  }
}
