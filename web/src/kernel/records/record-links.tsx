import { type AnyRecord, type SubjectKey } from '@zawn/core';
import { type ReactNode } from 'react';
import { useOpening } from '../../platform/frame/opening';

interface Props {
  object: SubjectKey;
  records: readonly AnyRecord[];
  /** What stands at the right of each name. */
  detail: (record: AnyRecord) => ReactNode;
  /** What is said in a line below it. */
  under?: (record: AnyRecord) => ReactNode;
}

/** A short list of records, each opening its sheet. */
export function RecordLinks({ object, records, detail, under }: Props) {
  const { open } = useOpening();
  return (
    <ul className="record-links">
      {records.map((record) => (
        <li key={record.id}>
          <button type="button" className="link-button clip" onClick={() => open(object, record.id)}>
            {record.name}
          </button>
          <span className="second figure">{detail(record)}</span>
          {under && <span className="record-links-under">{under(record)}</span>}
        </li>
      ))}
    </ul>
  );
}
