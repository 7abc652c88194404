import { type AnyRecord } from '@zawn/core';
import { Button, Modal } from 'antd';
import { ChevronLeft, ChevronRight, Download } from 'lucide-react';
import { type KeyboardEvent } from 'react';
import { size } from '../../platform/frame/format';
import { contentOf } from './content-of';

interface Props {
  /** The files of a record that can be looked at, in their order. */
  files: readonly AnyRecord[];
  /** The one looked at. */
  id: number;
  show: (id: number) => void;
  close: () => void;
}

/** A picture or PDF looked at where it was opened; arrow keys go to the next one of the record. */
export function FilePreview({ files, id, show, close }: Props) {
  const at = files.findIndex((file) => file.id === id);
  if (at < 0) return null;
  const file = files[at];
  const name = String(file.name);
  const address = contentOf(file.id);
  const step = (by: 1 | -1) => {
    const next = files.at(at + by);
    if (next && at + by >= 0) show(next.id);
  };
  return (
    <Modal
      open
      centered
      width="min(1040px, 94vw)"
      title={name}
      onCancel={close}
      wrapProps={{
        onKeyDown: ({ key }: KeyboardEvent) => {
          if (key === 'ArrowLeft') step(-1);
          if (key === 'ArrowRight') step(1);
        },
      }}
      footer={
        <div className="preview-foot">
          <span className="second">
            {size(Number(file.size))}
            {files.length > 1 && `, ${at + 1} of ${files.length}`}
          </span>
          {files.length > 1 && (
            <>
              <Button
                icon={<ChevronLeft size={15} />}
                aria-label="The one before"
                disabled={at === 0}
                onClick={() => step(-1)}
              />
              <Button
                icon={<ChevronRight size={15} />}
                aria-label="The next one"
                disabled={at === files.length - 1}
                onClick={() => step(1)}
              />
            </>
          )}
          <Button icon={<Download size={15} />} href={address} download={name}>
            Save a copy
          </Button>
        </div>
      }
    >
      <div className="preview">
        {file.mediaType === 'application/pdf' ? (
          <iframe src={`${address}?show`} title={name} />
        ) : String(file.mediaType).startsWith('audio/') ? (
          <audio src={`${address}?show`} controls aria-label={name} />
        ) : (
          <img src={`${address}?show`} alt={name} />
        )}
      </div>
    </Modal>
  );
}
