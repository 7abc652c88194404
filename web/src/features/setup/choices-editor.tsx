import { choiceListOf, type Choice, type ChoiceListKey } from '@zawn/core';
import { Button, Input, InputNumber, Select } from 'antd';
import { Archive, ArchiveRestore } from 'lucide-react';
import { useState } from 'react';
import { kindIcons } from '../activities/kinds';
import { moved, MoveButtons } from '../../platform/frame/move-buttons';
import { newChoice } from '../../kernel/records/new-choice';
import { ChoiceUse, OutcomeMeaning, type ChoicePart } from './choice-details';

interface Props {
  choices: readonly Choice[];
  onChange: (choices: Choice[]) => void;
  /** The list they are of; the choices of a custom field have nothing beside their labels. */
  list?: ChoiceListKey;
}

const icons = Object.entries(kindIcons).map(([value, { label, Icon }]) => ({
  value,
  label: (
    <span className="choice-icon">
      <Icon size={14} aria-hidden /> {label}
    </span>
  ),
}));

/** Choices in their order, each with its label and what else is said of it; more are added below. */
export function ChoicesEditor({ choices, onChange, list }: Props) {
  const [typed, setTyped] = useState('');
  const { details = [], kinds = [], fixed = [] } = list ? choiceListOf(list) : {};
  const change = (at: number, part: ChoicePart) =>
    onChange(
      choices.map((each, index) => {
        if (index !== at) return each;
        const kept = Object.entries({ ...each, ...part }).filter(([, value]) => value !== undefined);
        return Object.fromEntries(kept) as unknown as Choice;
      }),
    );
  const add = () => {
    if (!typed.trim()) return;
    const made = newChoice(typed.trim(), choices);
    onChange([...choices, details.includes('kind') ? { ...made, kind: kinds[0].key } : made]);
    setTyped('');
  };
  return (
    <div className="choices">
      <ol aria-label="Choices">
        {choices.map((choice, at) => {
          const { key, label, retired, kind, days, icon } = choice;
          return (
            <li key={key} className={retired ? 'choice-retired' : ''}>
              <div className="choice-line">
                <Input
                  value={label}
                  onChange={({ target }) => change(at, { label: target.value })}
                  aria-label={`Label of ${key}`}
                  maxLength={60}
                />
                {details.includes('icon') && (
                  <Select
                    value={icon ?? 'tick'}
                    options={icons}
                    onChange={(value: string) => change(at, { icon: value })}
                    aria-label={`Drawing of ${label}`}
                  />
                )}
                {details.includes('kind') && (
                  <Select
                    value={kind}
                    options={kinds.map((each) => ({ value: each.key, label: each.label }))}
                    disabled={fixed.includes(key)}
                    onChange={(value: string) => change(at, { kind: value })}
                    aria-label={`What ${label} counts as`}
                  />
                )}
                {details.includes('days') && (
                  <InputNumber<number>
                    value={days ?? null}
                    min={1}
                    max={3650}
                    suffix="days"
                    placeholder="never"
                    onChange={(value) => change(at, { days: value ?? undefined })}
                    aria-label={`Days until ${label} is to be touched again`}
                  />
                )}
                <ChoiceUse choice={choice} details={details} change={(part) => change(at, part)} />
                <MoveButtons
                  name={label}
                  at={at}
                  count={choices.length}
                  move={(step) => onChange(moved(choices, at, step))}
                />
                <button
                  type="button"
                  className="icon-button"
                  disabled={fixed.includes(key)}
                  title={fixed.includes(key) ? 'Zawn relies on this one' : undefined}
                  onClick={() => change(at, { retired: retired ? undefined : true })}
                  aria-label={`${retired ? 'Bring back' : 'Retire'} ${label}`}
                >
                  {retired ? <ArchiveRestore size={14} aria-hidden /> : <Archive size={14} aria-hidden />}
                </button>
              </div>
              <OutcomeMeaning choice={choice} details={details} change={(part) => change(at, part)} />
            </li>
          );
        })}
      </ol>
      <div className="choice-add">
        <Input
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
          onPressEnter={(event) => {
            event.preventDefault();
            add();
          }}
          placeholder="Another choice"
          aria-label="Another choice"
          maxLength={60}
        />
        <Button onClick={add} disabled={!typed.trim()}>
          Add
        </Button>
      </div>
    </div>
  );
}
