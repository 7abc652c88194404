import { Modal } from 'antd';
import { useState, type ReactNode } from 'react';

interface Props<T> {
  title: string;
  /** What the button does: `Save` when left out. */
  action?: string;
  before: T;
  /** Whether what stands there can be kept; everything can when left out. */
  isReady?: (value: T) => boolean;
  /** Called with a value that is another one than before. */
  save: (value: T) => void;
  close: () => void;
  /** The field: what stands in it, how it is changed, and how Enter in it is answered. */
  children: (value: T, set: (value: T) => void, done: () => void) => ReactNode;
}

/** Asks for one value in a dialog, and keeps it when it is another one. */
export function AskOne<T>({ title, action = 'Save', before, isReady, save, close, children }: Props<T>) {
  const [value, setValue] = useState(before);
  const canSave = isReady?.(value) ?? true;
  const done = () => {
    if (!canSave) return;
    if (value !== before) save(value);
    close();
  };
  return (
    <Modal
      open
      title={title}
      okText={action}
      okButtonProps={{ disabled: !canSave }}
      onOk={done}
      onCancel={close}
      width={430}
    >
      {children(value, setValue, done)}
    </Modal>
  );
}
