import { choiceListOf, offered, type Choice, type ChoiceListKey } from '@zawn/core';
import { Select } from 'antd';
import { useState } from 'react';
import { useNewChoice } from './use-new-choice';

interface Props {
  list: ChoiceListKey;
  /** All of the list, those included that are not offered any more. */
  all: readonly Choice[];
  value: string | null;
  onChange: (key: string | null) => void;
  label: string;
  id?: string;
}

/** What stands for the words that are typed and not on the list yet. */
const NEW = '+';

/** Chooses one of a list, or none; whoever may adds one that is missed by typing it. */
export function ChoiceSelect({ list, all, value, onChange, label, id }: Props) {
  const [typed, setTyped] = useState('');
  const another = useNewChoice(list, all);
  const text = typed.trim();
  const isThere = all.some((choice) => choice.label.toLowerCase() === text.toLowerCase());
  const options = all
    .filter(({ key }) => key === value || offered(all).some((choice) => choice.key === key))
    .map((choice) => ({ value: choice.key, label: choice.label }));
  const name = choiceListOf(list).label.toLowerCase();
  if (another && text !== '' && !isThere) options.push({ value: NEW, label: `Add “${text}” to the ${name}` });
  return (
    <Select
      id={id}
      allowClear
      className="wide"
      showSearch={{
        onSearch: setTyped,
        filterOption: (words, option) =>
          option?.value === NEW || String(option?.label).toLowerCase().includes(words.trim().toLowerCase()),
      }}
      loading={another?.isBusy ?? false}
      value={value ?? undefined}
      options={options}
      aria-label={label}
      placeholder="Not known"
      notFoundContent={another ? `Type a name to add it` : `None of the ${name} is called that`}
      onChange={(chosen: string | undefined) =>
        chosen === NEW ? another?.add(text, onChange) : onChange(chosen ?? null)
      }
    />
  );
}
