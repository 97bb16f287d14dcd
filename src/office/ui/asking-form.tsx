import type { FormEvent, ReactNode } from 'react';
import { asking as say } from '../words/ui';
import { LabelledField } from './labelled-field';

/** A form as {@link useAsking} keeps it. */
export interface Asking {
  readonly busy: boolean;
  readonly submit: (e: FormEvent<HTMLFormElement>) => void;
  readonly trouble: string | undefined;
  readonly at: (field: string) => string | undefined;
}

/** A form that asks once: what is wrong with all of it above, its one button below, and what else can be done beside that. */
export function AskingForm({
  asking,
  button,
  look = 'leaf',
  className,
  beside,
  children,
}: {
  asking: Asking;
  button: string;
  look?: 'leaf' | 'beet' | '';
  className?: string;
  beside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <form className={className} onSubmit={asking.submit}>
      {asking.trouble && (
        <p className="trouble" role="alert">
          {asking.trouble}
        </p>
      )}
      {children}
      <div className="asking-end">
        <button className={`btn ${look}`} type="submit" disabled={asking.busy}>
          {asking.busy ? say.oneMoment : button}
        </button>
        {beside}
      </div>
    </form>
  );
}

/** A password that is chosen, with what makes a good one. */
export const NewPasswordField = ({ asking, label }: { asking: Asking; label: string }) => (
  <LabelledField
    label={label}
    name="password"
    type="password"
    auto="new-password"
    error={asking.at('password')}
    hint={say.atLeast10CharactersFourWords}
  />
);
