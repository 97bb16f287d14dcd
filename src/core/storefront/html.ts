import { escapeHtml } from '../html/escape';

/**
 * HTML that is safe as it stands; made only by {@link html} and by the fragments. It is kept in the pieces it was made of
 * and joined when its text is asked for: who sends it can do so piece by piece, and keep those that stay.
 */
export class Html {
  #text: string | undefined;
  /** Stays the same object while what it shows stays the same: worth keeping in the form it is sent in. */
  lasting = false;

  constructor(
    text: string | undefined,
    readonly pieces: readonly (string | Html)[] = text === undefined ? [] : [text],
  ) {
    this.#text = text;
  }

  get text(): string {
    if (this.#text === undefined) {
      let out = '';
      for (const piece of this.pieces) out += typeof piece === 'string' ? piece : piece.text;
      this.#text = out;
    }
    return this.#text;
  }

  toString(): string {
    return this.text;
  }
}

type Value = string | number | Html | readonly Html[] | false | null | undefined;

/** A template in which every value is escaped unless it is Html itself. Nothing, false and null leave no trace. */
export function html(parts: TemplateStringsArray, ...values: Value[]): Html {
  const pieces: (string | Html)[] = [parts[0] ?? ''];
  for (let i = 0; i < values.length; i++) {
    put(pieces, values[i]);
    pieces.push(parts[i + 1] ?? '');
  }
  return new Html(undefined, pieces);
}

function put(pieces: (string | Html)[], value: Value): void {
  if (value === false || value === null || value === undefined) return;
  if (value instanceof Html) pieces.push(value);
  else if (Array.isArray(value)) for (const one of value) put(pieces, one as Value);
  else pieces.push(escapeHtml(String(value)));
}
