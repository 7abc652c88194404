import { type AnyRecord } from '@zawn/core';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { FormattedText } from './formatted-text';
import { NoteForm, startOf } from './note-form';
import './notes.css';

/** A note in the timeline: pinned to its top or not, and changed by its author where it stands. */
export function NoteLine({ note }: { note: AnyRecord }) {
  const { me } = useSession();
  const [isEditing, setEditing] = useState(false);
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
      </span>
    </div>
  );
}
