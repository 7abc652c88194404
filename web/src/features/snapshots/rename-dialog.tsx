import { Input, Modal } from 'antd';
import { useState } from 'react';

interface Props {
  title: string;
  name: string;
  maxLength: number;
  save: (name: string) => void;
  close: () => void;
}

/** Asks how something is to be called. */
export function RenameDialog({ title, name: before, maxLength, save, close }: Props) {
  const [name, setName] = useState(before);
  const isNamed = name.trim() !== '';
  const done = () => {
    if (!isNamed) return;
    if (name.trim() !== before) save(name.trim());
    close();
  };
  return (
    <Modal
      open
      title={title}
      okText="Save"
      okButtonProps={{ disabled: !isNamed }}
      onOk={done}
      onCancel={close}
      width={430}
    >
      <Input
        aria-label="Name"
        autoFocus
        maxLength={maxLength}
        value={name}
        onChange={(event) => setName(event.target.value)}
        onPressEnter={done}
      />
    </Modal>
  );
}
