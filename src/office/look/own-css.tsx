import { autocompletion, type CompletionContext, completeFromList } from '@codemirror/autocomplete';
import { css, cssLanguage } from '@codemirror/lang-css';
import { type Diagnostic, linter, lintGutter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { useEffect, useRef, useState } from 'react';
import { OWN_CSS, ownCssOf } from '../../core/look/plan';
import { type CssFault, readOwnCss } from '../../core/storefront/own-css';
import { partNames, parts } from '../../core/storefront/parts';
import { ownCss as say } from '../words/look';
import type { LookAct, LookState } from './look-state';

/** Our own colours. */
const theme = EditorView.theme({
  '&': {
    border: '1px solid var(--color-control)',
    borderRadius: '5px',
    background: '#fff',
    fontSize: '12.5px',
  },
  '&.cm-focused': { outline: '2px solid var(--color-ink)', outlineOffset: '2px' },
  '.cm-content': { fontFamily: 'var(--font-mono)', minHeight: '220px' },
  '.cm-gutters': { background: 'var(--color-paper)', color: 'var(--color-ink-3)', border: '0' },
  '.cm-tooltip': { background: 'var(--color-receipt)', border: '1px solid var(--color-line-2)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    background: 'var(--color-leaf-wash)',
    color: 'var(--color-ink)',
  },
});

/** After `::` all parts are offered, each with what it is. */
const partList = completeFromList(
  partNames.map((name) => ({ label: `::part(${name})`, type: 'class', info: parts[name] })),
);
const offered = (context: CompletionContext) => {
  const before = context.matchBefore(/::?[a-z(-]*$/);
  return before || context.explicit ? partList(context) : null;
};

const faultsIn = (view: EditorView): Diagnostic[] =>
  readOwnCss(view.state.doc.toString()).faults.map(({ line, column, what }) => {
    const at = view.state.doc.line(Math.min(line, view.state.doc.lines));
    return { from: Math.min(at.to, at.from + column - 1), to: at.to, severity: 'error', message: what };
  });

interface Props {
  readonly state: LookState;
  readonly act: (act: LookAct) => void;
}

/** The owner's own CSS for the parts of the shop: worn while it is typed, faults with their lines. */
export default function OwnCss({ state, act }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView | null>(null);
  const now = ownCssOf(state.decisions);
  const [faults, setFaults] = useState<readonly CssFault[]>(() => readOwnCss(now).faults);
  // Made once; what is undone elsewhere comes in by the effect below.
  const first = useRef(now);
  useEffect(() => {
    if (!place.current) return;
    const typed = EditorView.updateListener.of((update) => {
      if (!update.docChanged) return;
      const text = update.state.doc.toString();
      setFaults(readOwnCss(text).faults);
      act({ do: 'decide', name: OWN_CSS, value: text.trim() ? text : undefined, goesOn: true });
    });
    const view = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: first.current,
        extensions: [
          lineNumbers(),
          css(),
          cssLanguage.data.of({ autocomplete: offered }),
          autocompletion(),
          lintGutter(),
          linter(faultsIn, { delay: 250 }),
          keymap.of([]),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': say.ownCss }),
          theme,
          typed,
        ],
      }),
    });
    editor.current = view;
    return () => view.destroy();
  }, [act]);
  useEffect(() => {
    const view = editor.current;
    if (!view || view.hasFocus || view.state.doc.toString() === now) return;
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: now } });
  }, [now]);
  return (
    <section className="lk-css" aria-label={say.ownCss}>
      <p className="note">{say.writtenForParts}</p>
      <div ref={place} />
      <div role="status" className="faults">
        {faults.length === 0 ? (
          <p className="note">{say.noFaults}</p>
        ) : (
          <ul>
            {faults.map((f) => (
              <li key={`${f.line} ${f.column} ${f.what}`}>
                <b className="mono">{say.line(f.line)}</b> {f.what}
              </li>
            ))}
          </ul>
        )}
      </div>
      <details>
        <summary>{say.allParts(partNames.length)}</summary>
        <dl>
          {partNames.map((name) => (
            <div key={name}>
              <dt className="mono">{name}</dt>
              <dd>{parts[name]}</dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  );
}
