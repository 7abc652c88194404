import { useQuery } from '@tanstack/react-query';
import { type List, type ObjectKey, type Selection, type Written } from '@zawn/core';
import { Modal } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { savedViews } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { type Option } from '../../kernel/sentence/options';
import { PickList } from '../../kernel/sentence/pick-list';
import { useSession } from '../../platform/sessions/session';
import { useBulk } from './use-bulk';

interface Props {
  object: ObjectKey;
  what: string;
  selection: Selection;
  onDone: () => void;
  close: () => void;
}

type Choice = { list: number } | { create: string };

/** Puts records on a list that is there, or on a new one: type its name. */
export function ListDialog({ object, what, selection, onDone, close }: Props) {
  const { policy } = useSession();
  const { data } = useQuery(savedViews);
  const { complain } = useNotices();
  const bulk = useBulk();
  const [typed, setTyped] = useState('');
  const mine = (data?.lists ?? []).filter(
    (list) => list.object === object && policy.mayChangeShared('list', list),
  );
  const name = typed.trim();
  const matches = mine.filter((list) => list.name.toLowerCase().includes(name.toLowerCase()));
  const options: Option<Choice>[] = matches.map(({ id, name: its }) => ({
    key: String(id),
    label: its,
    value: { list: id },
    group: 'My lists',
  }));
  if (name && !mine.some((list) => list.name.toLowerCase() === name.toLowerCase()))
    options.push({ key: 'new', label: `New list “${name}”`, value: { create: name }, group: 'New' });
  const pick = async (choice: Choice) => {
    try {
      const list =
        'list' in choice
          ? choice.list
          : (
              await call<Written<List>>('POST', '/lists', {
                body: { name: choice.create, object, sharing: 'private' },
              })
            ).value.id;
      if (await bulk({ object, selection, action: { do: 'addToList', list } })) onDone();
      close();
    } catch (error) {
      complain(error);
    }
  };
  return (
    <Modal open title={`Put ${what} on a list`} footer={null} onCancel={close} width={380} destroyOnHidden>
      <PickList
        label="List"
        placeholder="A list, or the name of a new one"
        options={options}
        onType={setTyped}
        onPick={(choice) => void pick(choice)}
        nothing="Type the name of a new list"
      />
      <p className="second bulk-hint">What is on the list already stays on it once.</p>
    </Modal>
  );
}
