/** An answer's JSON as fields of which nothing is known yet; none where it is no object. */
export async function fieldsIn(answer: Response | undefined): Promise<Readonly<Record<string, unknown>>> {
  const value: unknown = await answer?.json().catch(() => undefined);
  return fieldsOfValue(value);
}

/** The same of a text. */
export function fieldsInText(text: string): Readonly<Record<string, unknown>> {
  try {
    return fieldsOfValue(JSON.parse(text));
  } catch {
    return {};
  }
}

const fieldsOfValue = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null ? Object.fromEntries(Object.entries(value)) : {};

/** A field as text; '' where it is none. */
export const textIn = (fields: Readonly<Record<string, unknown>>, name: string): string => {
  const value = fields[name];
  return typeof value === 'string' ? value : '';
};
