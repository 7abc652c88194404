import { offered, type Field, type TableHead, type UnknownText } from '@zawn/core';
import { fillableAt, targetOf, type ImportSetup } from '@zawn/core/imports';
import { Select } from 'antd';
import { useWrite } from '../../platform/api/use-write';
import { counted, number } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { newChoice } from '../../kernel/records/new-choice';
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

/** A text of a column with what it was said to stand for; undefined while nobody has said. */
interface Asked {
  path: string;
  heading: string;
  text: string;
  rows?: number;
  means?: string | number | null;
}

/** What is asked first, what was answered below it, so that an answer can be taken back. */
function askedOf({ table, setup, unknown }: Props): Asked[] {
  const open = unknown.flatMap(({ column, text, rows }): Asked[] => {
    const path = setup.columns[column];
    return path ? [{ path, heading: table.headings[column], text, rows }] : [];
  });
  const answered = setup.columns.flatMap((path, column) =>
    Object.entries((path && setup.meanings[path]) || {}).map(([text, means]): Asked => ({
      path: path ?? '',
      heading: table.headings[column],
      text,
      means,
    })),
  );
  return [...open, ...answered];
}

/** Texts that are no choice and nobody’s name, each to be pointed at one, or made one, once for the whole file. */
export function UnknownTexts(props: Props) {
  const { setup, change } = props;
  const { catalogue, customFields, choiceLists, policy, people } = useSession();
  const write = useWrite();
  const asked = askedOf(props);
  if (asked.length === 0) return null;
  const mean = (path: string, text: string, value: string | number | null | undefined) => {
    const { [text.toLowerCase()]: _, ...others } = setup.meanings[path] ?? {};
    const said = value === undefined ? others : { ...others, [text.toLowerCase()]: value };
    change({ meanings: { ...setup.meanings, [path]: said } });
  };
  /** What keeps the choices behind a column, where operations may add to them. */
  const keptIn = (path: string, { choices, list }: Field): Kept | undefined => {
    if (!choices || !policy.may('setUpFields')) return undefined;
    if (list !== undefined) {
      const own = choiceLists.find((each) => each.list === list);
      return own
        ? { path: `/choice-lists/${own.id}`, version: own.version }
        : { path: '/choice-lists', list };
    }
    const own = customFields.find(({ object, key }) => object === setup.target && key === path);
    return own && { path: `/custom-fields/${own.id}`, version: own.version };
  };
  const choose = (path: string, text: string, field: Field, value: string | undefined) => {
    if (value === undefined) return mean(path, text, undefined);
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
    <section className="import-texts" aria-label="What texts of the file stand for">
      <h2>What do these stand for?</h2>
      {asked.slice(0, SHOWN).map(({ path, heading, text, rows, means }) => {
        const field = fillableAt(catalogue, targetOf(setup.target), path)?.field;
        if (!field) return null;
        const known =
          field.type === 'link'
            ? peopleToChoose(people).map(({ value, label }) => ({ value: String(value), label }))
            : offered(field.choices)
                .filter(({ key }) => key !== 'converted')
                .map(({ key, label }) => ({ value: key, label }));
        const more =
          means === undefined && keptIn(path, field)
            ? [{ value: ADD, label: `Add “${text}” as a choice` }]
            : [];
        return (
          <Option
            key={`${path} ${text.toLowerCase()}`}
            label={`“${text}” in ${heading}${rows === undefined ? '' : `, ${counted(rows, 'row')}`}`}
          >
            <Select
              size="small"
              placeholder="Choose what it stands for"
              allowClear
              value={means === undefined ? undefined : means === null ? LEAVE_EMPTY : String(means)}
              options={[...more, { value: LEAVE_EMPTY, label: 'Leave the cell empty' }, ...known]}
              onChange={(value?: string) => choose(path, text, field, value)}
              showSearch={{ optionFilterProp: 'label' }}
              aria-label={`What “${text}” stands for`}
            />
          </Option>
        );
      })}
      {asked.length > SHOWN && <p className="second">and {number(asked.length - SHOWN)} more</p>}
    </section>
  );
}
