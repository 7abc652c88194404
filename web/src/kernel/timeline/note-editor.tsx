import { type Formatted } from '@zawn/core';
import Mention from '@tiptap/extension-mention';
import { EditorContent, useEditor, useEditorState, type Editor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { type SuggestionKeyDownProps, type SuggestionProps } from '@tiptap/suggestion';
import { Bold, Heading, Italic, Link, List, ListOrdered, Quote, Strikethrough } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useSession } from '../../platform/sessions/session';
import './notes.css';

interface Mentioned {
  id: number;
  label: string;
}

/** Suggestions shown at a time. */
const SHOWN = 6;

interface Props {
  start: Formatted | string;
  onChange: (doc: Formatted, isEmpty: boolean) => void;
}

/** Where the text of a note is written: formatted, with colleagues mentioned after an @. */
export default function NoteEditor({ start, onChange }: Props) {
  const { people } = useSession();
  const [suggested, setSuggested] = useState<SuggestionProps<Mentioned>>();
  const [at, setAt] = useState(0);
  const keys = useRef<(event: KeyboardEvent) => boolean>(() => false);

  const items = suggested?.items ?? [];
  useEffect(() => {
    keys.current = (event) => {
      if (items.length === 0) return false;
      if (event.key === 'ArrowDown') setAt((at + 1) % items.length);
      else if (event.key === 'ArrowUp') setAt((at + items.length - 1) % items.length);
      else if (event.key === 'Enter' || event.key === 'Tab') suggested?.command(items[at]);
      else return false;
      return true;
    };
  });

  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [2] },
        code: false,
        codeBlock: false,
        horizontalRule: false,
        underline: false,
        trailingNode: false,
        link: { openOnClick: false, protocols: ['http', 'https', 'mailto'] },
      }),
      Mention.configure({
        HTMLAttributes: { class: 'mention' },
        suggestion: {
          items: ({ query }) =>
            people
              .filter(({ active, name }) => active && name.toLowerCase().includes(query.toLowerCase()))
              .slice(0, SHOWN)
              .map(({ id, name }) => ({ id, label: name })),
          render: () => ({
            onStart: (props: SuggestionProps<Mentioned>) => {
              setSuggested(props);
              setAt(0);
            },
            onUpdate: (props: SuggestionProps<Mentioned>) => {
              setSuggested(props);
              setAt(0);
            },
            onKeyDown: ({ event }: SuggestionKeyDownProps) => keys.current(event),
            onExit: () => setSuggested(undefined),
          }),
        },
      }),
    ],
    content: typeof start === 'string' ? paragraphs(start) : start,
    autofocus: 'end',
    editorProps: {
      attributes: { 'aria-label': 'Note', role: 'textbox', 'aria-multiline': 'true', class: 'note-text' },
    },
    onUpdate: ({ editor: now }) => onChange(now.getJSON() as Formatted, now.isEmpty),
  });

  return (
    <div className="note-editor">
      <Tools editor={editor} />
      <EditorContent editor={editor} />
      {items.length > 0 && (
        <ul className="mention-list" role="listbox" aria-label="Colleagues">
          {items.map((item, index) => (
            <li
              key={item.id}
              role="option"
              aria-selected={index === at}
              onMouseDown={(event) => {
                event.preventDefault();
                suggested?.command(item);
              }}
            >
              {item.label}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** A plain text as the editor takes it: a paragraph a line. */
const paragraphs = (text: string): Formatted => ({
  type: 'doc',
  content: text
    .split('\n')
    .map((line) => ({ type: 'paragraph', content: line ? [{ type: 'text', text: line }] : [] })),
});

function Tools({ editor }: { editor: Editor }) {
  const active = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      bold: now.isActive('bold'),
      italic: now.isActive('italic'),
      strike: now.isActive('strike'),
      heading: now.isActive('heading'),
      bulletList: now.isActive('bulletList'),
      orderedList: now.isActive('orderedList'),
      blockquote: now.isActive('blockquote'),
      link: now.isActive('link'),
    }),
  });
  const [address, setAddress] = useState<string>();
  const run = () => editor.chain().focus();
  const tool = (key: keyof typeof active, label: string, icon: ReactNode, act: () => void) => (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={active[key]}
      onMouseDown={(event) => event.preventDefault()}
      onClick={act}
    >
      {icon}
    </button>
  );
  const setLink = () => {
    const href = address?.trim();
    if (href)
      run()
        .setLink({ href: /^[a-z]+:/i.test(href) ? href : `https://${href}` })
        .run();
    setAddress(undefined);
  };
  return (
    <div className="note-tools" role="toolbar" aria-label="Format">
      {tool('bold', 'Bold', <Bold size={14} />, () => run().toggleBold().run())}
      {tool('italic', 'Italic', <Italic size={14} />, () => run().toggleItalic().run())}
      {tool('strike', 'Struck out', <Strikethrough size={14} />, () => run().toggleStrike().run())}
      {tool('heading', 'Heading', <Heading size={14} />, () => run().toggleHeading({ level: 2 }).run())}
      {tool('bulletList', 'List', <List size={14} />, () => run().toggleBulletList().run())}
      {tool('orderedList', 'Numbered list', <ListOrdered size={14} />, () => run().toggleOrderedList().run())}
      {tool('blockquote', 'Quotation', <Quote size={14} />, () => run().toggleBlockquote().run())}
      {tool('link', 'Link', <Link size={14} />, () =>
        active.link ? run().unsetLink().run() : setAddress(''),
      )}
      {address !== undefined && (
        <input
          autoFocus
          value={address}
          placeholder="Address, then Enter"
          aria-label="Address of the link"
          onChange={({ target }) => setAddress(target.value)}
          onBlur={setLink}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'Escape') return;
            event.preventDefault();
            event.stopPropagation();
            if (event.key === 'Enter') setLink();
            else setAddress(undefined);
          }}
        />
      )}
      <span className="second">@ mentions a colleague</span>
    </div>
  );
}
