/**
 * Faults that sites of registries really have, each looked at by hand in its file: what the checks say of them is right. `of` narrows it to
 * a page or to words of the finding.
 */
export const judged: Readonly<Record<string, readonly { readonly rule: string; readonly of?: string }[]>> =
  {};
