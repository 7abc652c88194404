import { useQuery } from '@tanstack/react-query';
import { ask, isShown, LARGEST_FILE, type AnyRecord, type SubjectKey } from '@zawn/core';
import { Button } from 'antd';
import { FileText, Plus, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { size } from '../../platform/frame/format';
import { contentOf } from './content-of';
import './files.css';
import { lazyPart } from '../../platform/frame/lazy-part';

const FilePreview = lazyPart(async () => (await import('./file-preview')).FilePreview);

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

/** A file by name: a picture is shown small; what can be looked at opens, what cannot is kept. */
function FileLine({ file, look }: { file: AnyRecord; look: () => void }) {
  const write = useWrite();
  const mediaType = String(file.mediaType);
  const address = contentOf(file.id);
  const name = String(file.name);
  const sign = mediaType.startsWith('image/') ? (
    <img src={`${address}?show`} alt="" loading="lazy" />
  ) : (
    <FileText size={15} aria-hidden />
  );
  return (
    <li>
      {isShown(mediaType) ? (
        <button type="button" className="link-button file-name" onClick={look}>
          {sign}
          <span>{name}</span>
        </button>
      ) : (
        <a href={address} download={name} className="file-name">
          {sign}
          <span>{name}</span>
        </a>
      )}
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
      // A recording stands with its call.
      ...ask('file', { field: object, is: 'anyOf', value: [id] }, { field: 'use', is: 'isEmpty' }),
      // Files are numbered as they come, so this is the newest first.
      sort: [{ field: 'id', descending: true }],
    }),
  );
  const { add, isBusy } = useAddFiles(object, id);
  const [looked, look] = useState<number>();
  const files = data?.rows ?? [];
  return (
    <section className="record-files">
      <h3>Files</h3>
      {files.length > 0 && (
        <ul>
          {files.map((file) => (
            <FileLine key={file.id} file={file} look={() => look(file.id)} />
          ))}
        </ul>
      )}
      {looked !== undefined && (
        <FilePreview
          files={files.filter(({ mediaType }) => isShown(String(mediaType)))}
          id={looked}
          show={look}
          close={() => look(undefined)}
        />
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
