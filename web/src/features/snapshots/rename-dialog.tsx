import { Input } from 'antd';
import { AskOne } from '../../platform/frame/ask-one';

interface Props {
  title: string;
  name: string;
  maxLength: number;
  save: (name: string) => void;
  close: () => void;
}

/** Asks how something is to be called. */
export function RenameDialog({ title, name, maxLength, save, close }: Props) {
  return (
    <AskOne
      title={title}
      before={name}
      isReady={(text) => text.trim() !== ''}
      save={(text) => save(text.trim())}
      close={close}
    >
      {(text, set, done) => (
        <Input
          aria-label="Name"
          autoFocus
          maxLength={maxLength}
          value={text}
          onChange={(event) => set(event.target.value)}
          onPressEnter={done}
        />
      )}
    </AskOne>
  );
}
