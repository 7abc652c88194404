import { type AnyRecord, type Field, type Names, type SubjectKey } from '@zawn/core';
import { Button } from 'antd';
import { useRef } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { FileName, useAddFiles } from './record-files';
import './files.css';

/** A field that holds a file: opened by its name, replaced by another, or emptied; the file itself stays on the record. */
export function FileFact({
  object,
  fieldKey,
  field,
  record,
  names,
}: {
  object: SubjectKey | 'activity';
  fieldKey: string;
  field: Field;
  record: AnyRecord;
  names: Names;
}) {
  const input = useRef<HTMLInputElement>(null);
  const write = useWrite();
  const { add, isBusy } = useAddFiles(object, record.id, fieldKey);
  const id = record[fieldKey] === null ? undefined : Number(record[fieldKey]);
  return (
    <div className="fact-shown file-fact">
      {id !== undefined && <FileName id={id} name={names.file?.[id]} asLink />}
      <Button
        type="link"
        size="small"
        data-field={fieldKey}
        loading={isBusy}
        onClick={() => input.current?.click()}
        aria-label={`${id === undefined ? 'Choose a file' : 'Another file'} for ${field.label}`}
      >
        {id === undefined ? 'Choose a file' : 'Another file'}
      </Button>
      {id !== undefined && (
        <Button
          type="link"
          size="small"
          aria-label={`Empty ${field.label}`}
          onClick={() =>
            write.mutate({
              method: 'PATCH',
              path: pathOf(object, record.id),
              version: record.version,
              body: { [fieldKey]: null },
            })
          }
        >
          Empty
        </Button>
      )}
      <input
        ref={input}
        type="file"
        hidden
        aria-label={`File for ${field.label}`}
        onChange={({ target }) => {
          void add([...(target.files ?? [])]);
          target.value = '';
        }}
      />
    </div>
  );
}
