import { choiceListOf, type Choice, type ChoiceListKey } from '@zawn/core';
import { Input } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useNewChoice } from './use-new-choice';

interface ChipProps {
  reasons: readonly Choice[];
  isChosen: (key: string) => boolean;
  choose: (key: string) => void;
  role: 'radio' | 'checkbox';
  autoFocus?: boolean;
}

function Chips({ reasons, isChosen, choose, role, autoFocus = false }: ChipProps) {
  return reasons.map(({ key, label }, index) => (
    <button
      key={key}
      type="button"
      className="chip"
      role={role}
      aria-checked={isChosen(key)}
      autoFocus={autoFocus && index === 0}
      onClick={() => choose(key)}
    >
      {label}
    </button>
  ));
}

/** Adds a choice to a list, for those who may, where they miss it. */
function AnotherReason({
  list,
  choices,
  choose,
}: {
  list: ChoiceListKey;
  choices: readonly Choice[];
  choose: (key: string) => void;
}) {
  const another = useNewChoice(list, choices);
  const [label, setLabel] = useState<string>();
  if (!another) return null;
  if (label === undefined)
    return (
      <button type="button" className="chip chip-add" onClick={() => setLabel('')}>
        <Plus size={12} aria-hidden /> reason
      </button>
    );
  const add = () => {
    if (label.trim() === '') return setLabel(undefined);
    another.add(label, (key) => {
      choose(key);
      setLabel(undefined);
    });
  };
  return (
    <Input
      className="chip-new"
      size="small"
      autoFocus
      maxLength={60}
      value={label}
      disabled={another.isBusy}
      placeholder="Reason, then Enter"
      aria-label={`Another of the ${choiceListOf(list).label.toLowerCase()}`}
      onChange={({ target }) => setLabel(target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          event.stopPropagation();
          setLabel(undefined);
        }
        if (event.key !== 'Enter') return;
        event.preventDefault();
        event.stopPropagation();
        add();
      }}
    />
  );
}

/** A list of reasons: those offered, and where it is one of the organisation's lists, all of it. */
interface Reasons {
  reasons: readonly Choice[];
  /** Which list they are of, where another may be added in place. */
  list?: ChoiceListKey;
  all?: readonly Choice[];
  autoFocus?: boolean;
}

interface OneProps extends Reasons {
  value?: string;
  onChange?: (reason: string) => void;
  id?: string;
}

/** The reasons of a list, as chips, one of which holds: one click and no typing. */
export function ReasonChips({ reasons, list, all = reasons, value, onChange, id, autoFocus }: OneProps) {
  const choose = (key: string) => onChange?.(key);
  return (
    <div className="chips" role="radiogroup" aria-label="Reason" id={id}>
      <Chips
        reasons={reasons}
        isChosen={(key) => value === key}
        choose={choose}
        role="radio"
        autoFocus={autoFocus}
      />
      {list && <AnotherReason list={list} choices={all} choose={choose} />}
    </div>
  );
}

interface SeveralProps extends Reasons {
  value: readonly string[];
  onChange: (reasons: string[]) => void;
}

/** The reasons of a list, as chips, any number of which hold. */
export function SeveralReasons({ reasons, list, all = reasons, value, onChange, autoFocus }: SeveralProps) {
  const toggle = (key: string) =>
    onChange(value.includes(key) ? value.filter((each) => each !== key) : [...value, key]);
  return (
    <div className="chips" role="group" aria-label="Reasons">
      <Chips
        reasons={reasons}
        isChosen={(key) => value.includes(key)}
        choose={toggle}
        role="checkbox"
        autoFocus={autoFocus}
      />
      {list && <AnotherReason list={list} choices={all} choose={toggle} />}
    </div>
  );
}
