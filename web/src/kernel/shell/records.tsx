import { size } from '../../platform/frame/format';
import { Paperclip, StickyNote } from 'lucide-react';
import { timelineKind, type Feature } from './feature';
import { lazyPart } from '../../platform/frame/lazy-part';

const NoteForm = lazyPart(async () => (await import('../timeline/note-form')).NoteForm);
const NoteLine = lazyPart(async () => (await import('../timeline/note-line')).NoteLine);

/** What every record has: notes and files. */
export const records: Feature = {
  forms: [{ key: 'note', label: 'Note', shortcut: 'm', does: 'Write a note', Form: NoteForm }],
  timeline: [
    timelineKind({
      kind: 'note',
      shownAs: 'Notes',
      Sign: () => <StickyNote size={14} aria-label="Note" role="img" />,
      Line: ({ entry }) => <NoteLine note={entry.record} />,
      who: ({ record }) => Number(record.owner),
    }),
    timelineKind({
      kind: 'file',
      shownAs: 'Files',
      Sign: () => <Paperclip size={14} aria-label="File" role="img" />,
      Line: ({ entry: { record } }) => (
        <span>
          File <b>{record.name}</b> <span className="second">{size(Number(record.size))}</span>
        </span>
      ),
      who: ({ record }) => Number(record.owner),
    }),
  ],
};
