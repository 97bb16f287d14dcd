import { type FormEvent, useState } from 'react';
import { Problem } from '../api';
import { asking as say } from '../words/ui';

/**
 * A form that asks once, and says what was refused at the field it is about. What is typed stays; the field
 * that is wrong gets the focus.
 */
export function useAsking<T>(
  work: (fields: Readonly<Record<string, string>>) => Promise<T>,
  done: (value: T, form: HTMLFormElement) => void,
) {
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<{ readonly message: string; readonly field: string | undefined }>();
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = e.currentTarget;
    const fields = Object.fromEntries(
      [...new FormData(form)].map(([name, value]) => [name, typeof value === 'string' ? value : '']),
    );
    setBusy(true);
    setWrong(undefined);
    work(fields).then(
      (value) => {
        setBusy(false);
        done(value, form);
      },
      (error: unknown) => {
        setBusy(false);
        const field = error instanceof Problem ? error.field : undefined;
        setWrong({ message: error instanceof Error ? error.message : say.thatDidNotWork, field });
        const at = field ? form.elements.namedItem(field) : null;
        if (at instanceof HTMLInputElement) at.focus();
      },
    );
  };
  return {
    busy,
    submit,
    /** What is wrong, where no field is to blame. */
    trouble: wrong && !wrong.field ? wrong.message : undefined,
    at: (field: string) => (wrong?.field === field ? wrong.message : undefined),
  };
}
