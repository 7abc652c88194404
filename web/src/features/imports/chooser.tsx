import { ClipboardPaste, FileUp } from 'lucide-react';
import { useEffect } from 'react';
import { targets } from '@zawn/core/imports';
import { FileDrop } from '../../platform/frame/file-drop';

/** A file to bring in, chosen, dropped or pasted. */
export interface Chosen {
  name: string;
  file: Blob;
}

const inField = (target: EventTarget | null) =>
  target instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(target.tagName);

/** Where a file comes in: dropped, chosen, or cells pasted straight from a spreadsheet. */
export function Chooser({ choose }: { choose: (chosen: Chosen) => void }) {
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if (inField(event.target) || text.trim() === '') return;
      event.preventDefault();
      choose({ name: 'pasted cells.tsv', file: new Blob([text], { type: 'text/plain' }) });
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  }, [choose]);
  return (
    <FileDrop
      onFiles={([file]) => choose({ name: file.name, file })}
      accept=".csv,.txt,.tsv,.xlsx,.ods,.vcf,.jsonl,.ndjson,text/*"
      label="File to bring in"
      button="Choose a file"
      beside={
        <span className="second">
          <ClipboardPaste size={14} aria-hidden /> <kbd>Ctrl</kbd> <kbd>V</kbd> pastes cells
        </span>
      }
    >
      <FileUp size={26} aria-hidden />
      <p className="empty-title">Drop a file here, or paste cells</p>
      <p className="second">
        CSV, XLSX, ODS, vCard or JSON lines, up to 100,000 rows or 50 MB. Nothing is written until you say so.
      </p>
      <p className="second import-templates">
        Empty files with the right headings:{' '}
        {targets.map(({ key, label }) => (
          <a key={key} href={`/api/v1/imports/${key}/template`}>
            {label.toLowerCase()}
          </a>
        ))}
      </p>
    </FileDrop>
  );
}
