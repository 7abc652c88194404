import { Link } from 'react-router';

/** What an import could not read of a record, cell by cell. */
export function ImportNoteLine({ entry }: { entry: { id: number; fileName: string; notes: string[] } }) {
  const { id, fileName, notes } = entry;
  return (
    <>
      <div>
        <b>Left empty on import</b> from <Link to={`/imports?run=${id}`}>{fileName}</Link>
      </div>
      {notes.map((note) => (
        <div key={note} className="second">
          {note.replace(/; left empty$/, '')}
        </div>
      ))}
    </>
  );
}
