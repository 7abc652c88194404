import { Input, Modal } from 'antd';
import { useState } from 'react';
import './choose-content.css';

/** Something that can be shown, in the group it is found in. */
export interface ContentChoice<T> {
  group: string;
  name: string;
  content: T;
}

interface Props<T> {
  title: string;
  choices: readonly ContentChoice<T>[];
  pick: (content: T) => void;
  close: () => void;
}

/** Asks what is to be shown, found by its name. */
export function ChooseContent<T>({ title, choices, pick, close }: Props<T>) {
  const [text, setText] = useState('');
  const words = text.toLowerCase().split(/\s+/);
  const found = choices.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word)));
  const groups = [...new Set(found.map(({ group }) => group))];
  return (
    <Modal open title={title} footer={null} onCancel={close} width={560}>
      <Input
        autoFocus
        aria-label="Find what to show"
        placeholder="Find what to show"
        allowClear
        value={text}
        onChange={(event) => setText(event.target.value)}
        onPressEnter={() => {
          if (text.trim() && found[0]) pick(found[0].content);
        }}
      />
      <div className="choose-content">
        {groups.length === 0 && <p className="second">Nothing is called “{text}”.</p>}
        {groups.map((group) => (
          <section key={group} aria-label={group}>
            <h3>{group}</h3>
            <ul>
              {found
                .filter((each) => each.group === group)
                .map(({ name, content }) => (
                  <li key={JSON.stringify(content)}>
                    <button type="button" className="link-button" onClick={() => pick(content)}>
                      {name}
                    </button>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </Modal>
  );
}
