import { type AnyRecord, type Attachment } from '@zawn/core';
import { Paperclip } from 'lucide-react';
import { useState } from 'react';
import { size } from '../../platform/frame/format';

/** Letters of an email that are shown before it is opened. */
const SHORT = 400;

/** An email as it came: what it is about, its text, its files. */
export function MailLine({ entry: { record } }: { entry: { record: AnyRecord } }) {
  const [isOpen, setOpen] = useState(false);
  const text = String(record.body ?? '');
  const files = JSON.parse(String(record.attachments ?? '[]')) as Attachment[];
  const isLong = text.length > SHORT;
  return (
    <>
      <span>
        <b>{record.subject}</b>{' '}
        <span className="second">
          {record.direction === 'out' ? `to ${String(record.recipients)}` : `from ${String(record.sender)}`}
        </span>
      </span>
      {text && (
        <p className="entry-said">
          {isLong && !isOpen ? `${text.slice(0, SHORT)}…` : text}
          {isLong && (
            <>
              {' '}
              <button type="button" className="link-button" onClick={() => setOpen(!isOpen)}>
                {isOpen ? 'Less' : 'All of it'}
              </button>
            </>
          )}
        </p>
      )}
      {files.length > 0 && (
        <ul className="mail-files" aria-label="Files">
          {files.map((file, index) => (
            <li key={`${file.hash} ${index}`}>
              <a href={`/api/v1/mails/${record.id}/files/${index}`} download>
                <Paperclip size={13} aria-hidden /> {file.name}
              </a>{' '}
              <span className="second">{size(file.size)}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
