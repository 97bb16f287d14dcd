import { useState } from 'react';
import { findingRow as say } from '../words/checks';

/** Letters that a word for later may have; the server holds the same. */
const MOST = 200;

/** Why something stays as it is: a word that is read again when its facts change. */
export function LeaveForm({ onLeave, onCancel }: { onLeave: (word: string) => void; onCancel: () => void }) {
  const [word, setWord] = useState('');
  return (
    <form
      className="ck-leave"
      onSubmit={(e) => {
        e.preventDefault();
        onLeave(word.trim());
      }}
    >
      <label className="own">
        {say.whyLeave}
        {/* biome-ignore lint/a11y/noAutofocus: it was opened by a press, to be written in */}
        <input autoFocus maxLength={MOST} value={word} onChange={(e) => setWord(e.target.value)} />
      </label>
      <button type="submit" className="btn sm">
        {say.leave}
      </button>
      <button type="button" className="btn quiet sm" onClick={onCancel}>
        {say.cancel}
      </button>
    </form>
  );
}
