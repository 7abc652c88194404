import { isCustomKey, type Field, type TableHead, type UnknownText } from '@zawn/core';
import { fillableAt, targetOf, type ImportSetup } from '@zawn/core/imports';
import { Select } from 'antd';
import { useWrite } from '../api/use-write';
import { counted, number } from '../frame/format';
import { useSession } from '../sessions/session';
import { keyFor } from './new-field';
import { Option } from './option';

const LEAVE_EMPTY = 'leave empty';
const ADD = 'add as a choice';
const SHOWN = 12;

interface Props {
  table: TableHead;
  setup: ImportSetup;
  unknown: readonly UnknownText[];
  change: (change: Partial<ImportSetup>) => void;
}

/** A key for a new choice that no other one has. */
function newChoice(text: string, { choices = [] }: Field): { key: string; label: string } {
  const key = keyFor(text).slice(2);
  const isTaken = (wanted: string) => choices.some((choice) => choice.key === wanted);
  let free = key;
  for (let count = 2; isTaken(free); count += 1) free = `${key}${count}`;
  return { key: free, label: text };
}

/** Texts that are no choice and nobody’s name, each to be pointed at one, or made one, once for the whole file. */
export function UnknownTexts({ table, setup, unknown, change }: Props) {
  const { catalogue, customFields, me, people } = useSession();
  const write = useWrite();
  if (unknown.length === 0) return null;
  const mean = (path: string, text: string, value: string | number | null) =>
    change({
      meanings: {
        ...setup.meanings,
        [path]: { ...setup.meanings[path], [text.toLowerCase()]: value },
      },
    });
  /** The organisation’s own field behind a column, whose choices operations may add to. */
  const extendable = (path: string, { choices }: Field) =>
    choices && isCustomKey(path) && me.role === 'operations'
      ? customFields.find(({ object, key }) => object === setup.target && key === path)
      : undefined;
  const choose = (path: string, text: string, field: Field, value: string) => {
    if (value === LEAVE_EMPTY) return mean(path, text, null);
    if (value !== ADD) return mean(path, text, field.type === 'link' ? Number(value) : value);
    const own = extendable(path, field);
    if (!own) return undefined;
    const added = newChoice(text, field);
    const choices = [...(field.choices ?? []), added].map(({ key, label }) => [key, label]);
    return write.mutate(
      {
        method: 'PATCH',
        path: `/custom-fields/${own.id}`,
        version: own.version,
        body: { choices: JSON.stringify(choices) },
      },
      { onSuccess: () => mean(path, text, added.key) },
    );
  };
  return (
    <section aria-label="Texts that stand for nothing yet">
      <h3>What do these stand for?</h3>
      {unknown.slice(0, SHOWN).map(({ column, text, rows }) => {
        const path = setup.columns[column];
        const field = path && fillableAt(catalogue, targetOf(setup.target), path)?.field;
        if (!path || !field) return null;
        const known =
          field.type === 'link'
            ? people
                .filter(({ active }) => active)
                .map(({ id, name }) => ({ value: String(id), label: name }))
            : (field.choices ?? [])
                .filter(({ key }) => key !== 'converted')
                .map(({ key, label }) => ({ value: key, label }));
        const more = extendable(path, field) ? [{ value: ADD, label: `Add “${text}” as a choice` }] : [];
        return (
          <Option
            key={`${column} ${text}`}
            label={`“${text}” in ${table.headings[column]}, ${counted(rows, 'row')}`}
          >
            <Select
              size="small"
              placeholder="Refused until you choose"
              options={[...more, { value: LEAVE_EMPTY, label: 'Leave the cell empty' }, ...known]}
              onChange={(value: string) => choose(path, text, field, value)}
              showSearch={{ optionFilterProp: 'label' }}
              aria-label={`What “${text}” stands for`}
            />
          </Option>
        );
      })}
      {unknown.length > SHOWN && <p className="second">and {number(unknown.length - SHOWN)} more</p>}
    </section>
  );
}
