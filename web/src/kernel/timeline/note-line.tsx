import { plainText, subjectKeys, type AnyRecord, type Formatted } from '@zawn/core';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { useBrought, type TimelineForm } from '../shell/feature';
import { FormattedText } from './formatted-text';
import { NoteForm, startOf } from './note-form';
import './notes.css';

/** The lines of a note that say something, without the signs of lists. */
const linesOf = (doc: Formatted | string): string[] =>
  (typeof doc === 'string' ? doc : plainText(doc))
    .split('\n')
    .map((line) => line.replace(/^\s*[-*•]\s+/, '').trim())
    .filter(Boolean);

/** Writes what a line of a note says to the record that the note is on: one line is asked for where it has several. */
function FromNote({ note, form, close }: { note: AnyRecord; form: TimelineForm; close: () => void }) {
  const lines = linesOf(startOf(note));
  const [what, setWhat] = useState(lines.length === 1 ? lines[0] : undefined);
  // The deal before the person: what is to be done for it is its next step.
  const object = (['deal', ...subjectKeys] as const).find((key) => typeof note[key] === 'number');
  if (!object) return null;
  if (what === undefined)
    return (
      <div className="note-lines" role="group" aria-label="Which line">
        {lines.map((line, at) => (
          <button key={at} type="button" className="chip" onClick={() => setWhat(line.slice(0, 200))}>
            {line}
          </button>
        ))}
      </div>
    );
  return <form.Form on={{ object, id: Number(note[object]) }} what={what.slice(0, 200)} close={close} />;
}

/** A note in the timeline: pinned to its top or not, and changed by its author where it stands. */
export function NoteLine({ note }: { note: AnyRecord }) {
  const { me } = useSession();
  const [isEditing, setEditing] = useState(false);
  const [from, setFrom] = useState<TimelineForm>();
  const forms = useBrought('forms').filter(({ fromNote }) => fromNote !== undefined);
  const write = useWrite();
  if (isEditing) return <NoteForm on={{ note }} close={() => setEditing(false)} />;
  const doc = startOf(note);
  const pin = () =>
    write.mutate({
      method: 'PATCH',
      path: pathOf('note', note.id),
      version: note.version,
      body: { pinned: note.pinned ? null : true },
    });
  return (
    <div className="entry-said">
      {note.title && <b className="note-name">{note.title}</b>}
      {typeof doc === 'string' ? <p>{doc}</p> : <FormattedText doc={doc} />}
      <span className="note-actions">
        <button type="button" className="link-button" onClick={pin}>
          {note.pinned ? 'Unpin' : 'Pin'}
        </button>
        {note.owner === me.id && (
          <button type="button" className="link-button" onClick={() => setEditing(true)}>
            Change
          </button>
        )}
        {forms.map((form) => (
          <button
            key={form.key}
            type="button"
            className="link-button"
            aria-expanded={from === form}
            onClick={() => setFrom(from === form ? undefined : form)}
          >
            {form.fromNote}
          </button>
        ))}
      </span>
      {from && <FromNote note={note} form={from} close={() => setFrom(undefined)} />}
    </div>
  );
}
