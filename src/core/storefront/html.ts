import { escapeHtml } from '../html/escape';

/** HTML that is safe as it stands; made only by {@link html} and by the fragments. */
export class Html {
  constructor(readonly text: string) {}
  toString(): string {
    return this.text;
  }
}

type Value = string | number | Html | readonly Html[] | false | null | undefined;

/** A template in which every value is escaped unless it is Html itself. Nothing, false and null leave no trace. */
export function html(parts: TemplateStringsArray, ...values: Value[]): Html {
  return new Html(parts.reduce((out, part, i) => out + show(values[i - 1]) + part));
}

function show(value: Value): string {
  if (value === false || value === null || value === undefined) return '';
  if (value instanceof Html) return value.text;
  if (Array.isArray(value)) return value.map(show).join('');
  return escapeHtml(String(value));
}
