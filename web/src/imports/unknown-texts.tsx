import { offered, type Field, type TableHead, type UnknownText } from '@zawn/core';
import { fillableAt, targetOf, type ImportSetup } from '@zawn/core/imports';
import { Select } from 'antd';
import { useWrite } from '../api/use-write';
import { counted, number } from '../frame/format';
import { useSession } from '../sessions/session';
import { newChoice } from './new-field';
import { Option } from './option';

const LEAVE_EMPTY = 'leave empty';
const ADD = 'add as a choice';
const SHOWN = 12;

/** The record that keeps choices, or where it is to be made. */
interface Kept {
  path: string;
  version?: number;
  list?: string;
}

interface Props {
  table: TableHead;
  setup: ImportSetup;
  unknown: readonly UnknownText[];
  change: (change: Partial<ImportSetup>) => void;
}

/** Texts that are no choice and nobody’s name, each to be pointed at one, or made one, once for the whole file. */
export function UnknownTexts({ table, setup, unknown, change }: Props) {
  const { catalogue, customFields, choiceLists, me, people } = useSession();
  const write = useWrite();
  if (unknown.length === 0) return null;
  const mean = (path: string, text: string, value: string | number | null) =>
    change({
      meanings: {
        ...setup.meanings,
        [path]: { ...setup.meanings[path], [text.toLowerCase()]: value },
      },
    });
  /** What keeps the choices behind a column, where operations may add to them. */
  const keptIn = (path: string, { choices, list }: Field): Kept | undefined => {
    if (!choices || me.role !== 'operations') return undefined;
    if (list !== undefined) {
      const own = choiceLists.find((each) => each.list === list);
      return own
        ? { path: `/choice-lists/${own.id}`, version: own.version }
        : { path: '/choice-lists', list };
    }
    const own = customFields.find(({ object, key }) => object === setup.target && key === path);
    return own && { path: `/custom-fields/${own.id}`, version: own.version };
  };
  const choose = (path: string, text: string, field: Field, value: string) => {
    if (value === LEAVE_EMPTY) return mean(path, text, null);
    if (value !== ADD) return mean(path, text, field.type === 'link' ? Number(value) : value);
    const kept = keptIn(path, field);
    if (!kept) return undefined;
    const added = {
      ...newChoice(text, field.choices),
      // A status that a file brings is one of leads being worked on until somebody says otherwise.
      ...(field.list === 'leadStatus' ? { kind: 'open' } : {}),
    };
    const choices = JSON.stringify([...(field.choices ?? []), added]);
    const { path: where, version, list } = kept;
    return write.mutate(
      version === undefined
        ? { method: 'POST', path: where, body: { list, choices } }
        : { method: 'PATCH', path: where, version, body: { choices } },
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
            : offered(field.choices)
                .filter(({ key }) => key !== 'converted')
                .map(({ key, label }) => ({ value: key, label }));
        const more = keptIn(path, field) ? [{ value: ADD, label: `Add “${text}” as a choice` }] : [];
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
