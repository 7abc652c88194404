import { useQuery } from '@tanstack/react-query';
import { ask, isShown, LARGEST_FILE, type AnyRecord, type SubjectKey } from '@zawn/core';
import { Button } from 'antd';
import { FileText, Plus, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { allRecords, pathOf } from '../api/queries';
import { useNotices, useWrite } from '../api/use-write';
import { size } from '../frame/format';
import './files.css';

/**
 * Hands files to a record, one after the other; what is too large is said before it is sent.
 * @param field the organisation’s own field that a file is meant for.
 */
export function useAddFiles(object: SubjectKey | 'activity', id: number, field?: string) {
  const write = useWrite();
  const { complain } = useNotices();
  const meantFor = field ? `&field=${field}` : '';
  const add = async (files: readonly File[]) => {
    for (const file of files) {
      if (file.size > LARGEST_FILE) {
        complain(new Error(`${file.name} is larger than 25 MB. It was not added.`));
        continue;
      }
      const path = `${pathOf(object, id)}/files?name=${encodeURIComponent(file.name)}${meantFor}`;
      // One that is refused says so itself; the others still come.
      await write.mutateAsync({ method: 'POST', path, file }).catch(() => undefined);
    }
  };
  return { add, isBusy: write.isPending };
}

const contentOf = (id: number) => `/api/v1${pathOf('file', id)}/content`;

/** A file that a field holds, by name; it is handed out by a click where it can be one. */
export function FileName({ id, name, asLink }: { id: number; name?: string; asLink?: boolean }) {
  if (!name) return <span className="second">no longer there</span>;
  return asLink ? (
    <a href={contentOf(id)} download={name}>
      {name}
    </a>
  ) : (
    name
  );
}

/** A file by name: a picture is shown small, and opens; what cannot be shown is kept. */
function FileLine({ file }: { file: AnyRecord }) {
  const write = useWrite();
  const mediaType = String(file.mediaType);
  const address = contentOf(file.id);
  const name = String(file.name);
  return (
    <li>
      <a
        href={isShown(mediaType) ? `${address}?show` : address}
        {...(isShown(mediaType) ? { target: '_blank', rel: 'noreferrer' } : { download: name })}
      >
        {mediaType.startsWith('image/') ? (
          <img src={`${address}?show`} alt="" loading="lazy" />
        ) : (
          <FileText size={15} aria-hidden />
        )}
        <span>{name}</span>
      </a>
      <span className="second">{size(Number(file.size))}</span>
      <Button
        type="text"
        size="small"
        icon={<Trash2 size={13} />}
        aria-label={`Delete ${name}`}
        onClick={() =>
          write.mutate({ method: 'DELETE', path: pathOf('file', file.id), version: file.version })
        }
      />
    </li>
  );
}

/** The files of a record, with the way to add more; they can also be dropped anywhere on it. */
export function RecordFiles({ object, id }: { object: SubjectKey; id: number }) {
  const input = useRef<HTMLInputElement>(null);
  const { data } = useQuery(
    allRecords({
      ...ask('file', { field: object, is: 'anyOf', value: [id] }),
      sort: [{ field: 'createdAt', descending: true }],
    }),
  );
  const { add, isBusy } = useAddFiles(object, id);
  return (
    <section className="record-files">
      <h3>Files</h3>
      {data && data.rows.length > 0 && (
        <ul>
          {data.rows.map((file) => (
            <FileLine key={file.id} file={file} />
          ))}
        </ul>
      )}
      <Button
        type="link"
        size="small"
        icon={<Plus size={14} />}
        loading={isBusy}
        onClick={() => input.current?.click()}
      >
        Add a file, or drop one here
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Files to add"
        onChange={({ target }) => {
          void add([...(target.files ?? [])]);
          // So that the same file can be chosen again.
          target.value = '';
        }}
      />
    </section>
  );
}
