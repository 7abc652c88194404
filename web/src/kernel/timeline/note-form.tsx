import { type AnyRecord, type Formatted, type SubjectKey } from '@zawn/core';
import { Input } from 'antd';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite, type Write } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { lazyPart } from '../../platform/frame/lazy-part';

const NoteEditor = lazyPart(async () => (await import('./note-editor')).default);

/** A note as the editor begins with it. */
export const startOf = ({ formatted, body }: AnyRecord): Formatted | string =>
  typeof formatted === 'string' ? (JSON.parse(formatted) as Formatted) : String(body);

interface Props {
  /** The record it is written on, or the note that is changed. */
  on: { object: SubjectKey; id: number } | { note: AnyRecord };
  close: () => void;
}

/** Writes a note, or changes one. */
export function NoteForm({ on, close }: Props) {
  const known = 'note' in on ? on.note : undefined;
  const [title, setTitle] = useState(String(known?.title ?? ''));
  const [doc, setDoc] = useState<Formatted>();
  const [isEmpty, setEmpty] = useState(!known);
  const write = useWrite();
  const save = () => {
    if (isEmpty) return;
    const words = { title: title.trim() || null, ...(doc ? { formatted: JSON.stringify(doc) } : {}) };
    const request: Write =
      'note' in on
        ? { method: 'PATCH', path: pathOf('note', on.note.id), version: on.note.version, body: words }
        : {
            method: 'POST',
            path: '/notes',
            // The server takes the text from how it is formatted.
            body: { ...words, body: '–', [on.object]: on.id },
          };
    write.mutate(request, { onSuccess: close });
  };
  return (
    <InlineForm save={save} close={close} label="Save note" isBusy={write.isPending} isReady={!isEmpty}>
      <Input
        variant="borderless"
        className="note-title"
        value={title}
        onChange={({ target }) => setTitle(target.value)}
        placeholder="Title, if it needs one"
        aria-label="Title"
        maxLength={120}
      />
      <NoteEditor
        start={known ? startOf(known) : ''}
        onChange={(next, nothing) => {
          setDoc(next);
          setEmpty(nothing);
        }}
      />
    </InlineForm>
  );
}
