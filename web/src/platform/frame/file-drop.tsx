import { Button } from 'antd';
import { useRef, useState, type ReactNode } from 'react';
import './file-drop.css';

interface Props {
  onFiles: (files: File[]) => void;
  /** What the file chooser offers, as `accept` says it. */
  accept: string;
  label: string;
  /** The words on its button. */
  button: string;
  multiple?: boolean;
  /** What stands above the button. */
  children: ReactNode;
  /** What stands beside it. */
  beside?: ReactNode;
}

/** A place where files are dropped, or chosen by its button. */
export function FileDrop({ onFiles, accept, label, button, multiple, children, beside }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const take = (files: FileList | null) => {
    if (files && files.length > 0) onFiles([...files]);
  };
  return (
    <div
      className={`file-drop ${isOver ? 'file-over' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      }}
    >
      {children}
      <p className="file-ways">
        <Button type="primary" onClick={() => input.current?.click()}>
          {button}
        </Button>
        {beside}
      </p>
      <input
        ref={input}
        type="file"
        accept={accept}
        multiple={multiple}
        aria-label={label}
        hidden
        onChange={({ target }) => {
          take(target.files);
          // So that the same file can be chosen again.
          target.value = '';
        }}
      />
    </div>
  );
}
