import { html } from '@codemirror/lang-html';
import { MergeView } from '@codemirror/merge';
import { EditorState } from '@codemirror/state';
import { EditorView, lineNumbers } from '@codemirror/view';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { call, viewKey } from '../api';
import { fileDiff as say } from '../words/site';

/** Our own colours, and no ornament on folded stretches: its sign is in none of our fonts. */
const look = EditorView.theme({
  '.cm-collapsedLines': {
    background: 'var(--color-linen)',
    color: 'var(--color-ink-2)',
    font: '500 12px/22px var(--font-ui)',
    padding: '0 10px',
  },
  '.cm-collapsedLines::before, .cm-collapsedLines::after': { content: 'none', display: 'none' },
  '&.cm-merge-a .cm-changedLine': { backgroundColor: '#F8E9E6' },
  '&.cm-merge-b .cm-changedLine': { backgroundColor: '#E6F1E8' },
  '&.cm-merge-a .cm-changedText': { background: '#EFCFC8' },
  '&.cm-merge-b .cm-changedText': { background: '#CBE4D0' },
  '&.cm-merge-a .cm-changedLineGutter': { background: 'var(--color-beet)' },
  '&.cm-merge-b .cm-changedLineGutter': { background: 'var(--color-leaf)' },
  '.cm-gutters': { background: 'var(--color-paper)', color: 'var(--color-ink-3)', border: '0' },
});

const read = [
  EditorState.readOnly.of(true),
  EditorView.editable.of(false),
  lineNumbers(),
  EditorView.lineWrapping,
  look,
  html(),
  EditorView.contentAttributes.of({ tabindex: '0' }),
];

/** One file as it is live and as it would be, side by side in its own text; long stretches that are the same are folded. */
export default function FileDiff({ path, slug }: { path: string; slug: string }) {
  const { data, error } = useQuery({
    queryKey: viewKey('diff', path),
    queryFn: () => call(slug, 'GET publications/page', { query: { path } }),
    staleTime: 0,
  });
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!data || !place.current) return;
    const label = (text: string) => EditorView.contentAttributes.of({ 'aria-label': text });
    const view = new MergeView({
      a: { doc: data.before, extensions: [...read, label(say.asItIsLive(path))] },
      b: { doc: data.after, extensions: [...read, label(say.asItWouldBe(path))] },
      parent: place.current,
      collapseUnchanged: { margin: 3, minSize: 6 },
      gutter: true,
      highlightChanges: true,
    });
    return () => view.destroy();
  }, [data, path]);
  if (error) return <p className="empty bad">{error.message}</p>;
  return (
    <>
      <div className="diff-h">
        <b>{say.asItIsLive2}</b>
        <b>{say.asItWouldBe2}</b>
      </div>
      <div ref={place} className="diff" />
      {!data && <p className="empty note">{say.fetchingBoth}</p>}
    </>
  );
}
