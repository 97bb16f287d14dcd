import { EditorContent, useEditor, useEditorState } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { Bold, Heading3, Italic, Link2, List, ListOrdered } from 'lucide-react';
import { useEffect, useState } from 'react';
import { richEditor as say } from '../words/goods';

/** Rich text of a description: what the shopper reads, with its structure and nothing else. The server cleans it once more. */
export default function RichEditor({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (html: string) => void;
}) {
  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [3, 4] },
        codeBlock: false,
        link: { openOnClick: false, protocols: ['http', 'https', 'mailto', 'tel'] },
      }),
    ],
    content: value,
    editorProps: {
      attributes: { class: 'rich-text', 'aria-label': label, role: 'textbox', 'aria-multiline': 'true' },
    },
    onUpdate: ({ editor: e }) => onChange(e.isEmpty ? '' : e.getHTML()),
  });
  const [href, setHref] = useState<string | null>(null);
  const is = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive('bold'),
      italic: e.isActive('italic'),
      heading: e.isActive('heading'),
      bullets: e.isActive('bulletList'),
      numbers: e.isActive('orderedList'),
      link: e.isActive('link'),
    }),
  });
  // Undone or saved elsewhere: the words follow, the caret stays with whoever writes.
  useEffect(() => {
    if (
      !editor.isDestroyed &&
      !editor.isFocused &&
      editor.getHTML() !== value &&
      !(editor.isEmpty && value === '')
    )
      editor.commands.setContent(value, { emitUpdate: false });
  }, [editor, value]);
  const link = () => {
    if (is.link) return void editor.chain().focus().unsetLink().run();
    setHref((open) => (open === null ? 'https://' : null));
  };
  const lead = () => {
    if (href && /^(https?:\/\/.|mailto:.|tel:.)/i.test(href)) editor.chain().focus().setLink({ href }).run();
    setHref(null);
  };
  const tools = [
    {
      name: say.bold,
      icon: <Bold size={14} />,
      on: is.bold,
      run: () => editor.chain().focus().toggleBold().run(),
    },
    {
      name: say.italic,
      icon: <Italic size={14} />,
      on: is.italic,
      run: () => editor.chain().focus().toggleItalic().run(),
    },
    {
      name: say.heading,
      icon: <Heading3 size={14} />,
      on: is.heading,
      run: () => editor.chain().focus().toggleHeading({ level: 3 }).run(),
    },
    {
      name: say.list,
      icon: <List size={14} />,
      on: is.bullets,
      run: () => editor.chain().focus().toggleBulletList().run(),
    },
    {
      name: say.numberedList,
      icon: <ListOrdered size={14} />,
      on: is.numbers,
      run: () => editor.chain().focus().toggleOrderedList().run(),
    },
    { name: say.link, icon: <Link2 size={14} />, on: is.link, run: link },
  ];
  return (
    <div className="rich">
      <div className="rich-tools" role="toolbar" aria-label={say.formOfTheText}>
        {tools.map((t) => (
          <button
            key={t.name}
            type="button"
            aria-pressed={t.on}
            aria-label={t.name}
            title={t.name}
            onClick={t.run}
          >
            {t.icon}
          </button>
        ))}
        {href !== null && (
          <input
            aria-label={say.addressTheLinkLeadsToEnter}
            value={href}
            onChange={(e) => setHref(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter') {
                e.preventDefault();
                lead();
              } else if (e.key === 'Escape') setHref(null);
            }}
          />
        )}
      </div>
      <EditorContent editor={editor} />
    </div>
  );
}
