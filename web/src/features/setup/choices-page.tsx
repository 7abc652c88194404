import {
  choiceListKeys,
  choiceListOf,
  choicesIn,
  isObjectKey,
  objectKeys,
  objectType,
  type Choice,
  type ChoiceListKey,
} from '@zawn/core';
import { Button } from 'antd';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { StatusGuides } from '../guides/status-guides';
import { ChoicesEditor } from './choices-editor';
import './setup.css';

/** The objects whose fields take their choices from a list, in words: “Leads and deals”. */
function usedBy(list: ChoiceListKey): string {
  const all = objectKeys.filter((object) =>
    Object.values(objectType(object).fields).some((field) => field.list === list),
  );
  const atWork = all.filter((object) => objectType(object).category === 'work');
  const users = atWork.length > 0 ? atWork : all;
  const words = users.filter(isObjectKey).map((object) => objectType(object).plural.toLowerCase());
  return words.join(' and ');
}

/** One list, changed as a whole and saved at once. */
function ListEditor({ list }: { list: ChoiceListKey }) {
  const { choiceLists } = useSession();
  const own = choiceLists.find((each) => each.list === list);
  const known = own ? choicesIn(own.choices) : choiceListOf(list).choices;
  const [draft, setDraft] = useState<readonly Choice[]>(known);
  const write = useWrite();
  const { label, use, guided } = choiceListOf(list);
  const isChanged = JSON.stringify(draft) !== JSON.stringify(known);
  const save = () => {
    const choices = JSON.stringify(draft.map((each) => ({ ...each, label: each.label.trim() })));
    write.mutate(
      own
        ? { method: 'PATCH', path: `/choice-lists/${own.id}`, version: own.version, body: { choices } }
        : { method: 'POST', path: '/choice-lists', body: { list, choices } },
    );
  };
  return (
    <section className="setup-main" aria-label={label}>
      <header>
        <h2>{label}</h2>
        <p className="second">
          {use}. Used by {usedBy(list)}.
        </p>
      </header>
      <ChoicesEditor choices={draft} onChange={setDraft} list={list} />
      <footer>
        <Button type="primary" disabled={!isChanged} loading={write.isPending} onClick={save}>
          Save {label.toLowerCase()}
        </Button>
        {isChanged && <Button onClick={() => setDraft(known)}>Discard changes</Button>}
      </footer>
      {guided && <StatusGuides statuses={known} />}
    </section>
  );
}

/** The lists of choices: what can be chosen in fields, in which order, and what it counts as. */
export function Component() {
  const { choiceLists } = useSession();
  const [parameters] = useSearchParams();
  const chosen = choiceListKeys.find((key) => key === parameters.get('list')) ?? choiceListKeys[0];
  const own = choiceLists.find(({ list }) => list === chosen);
  return (
    <>
      <header className="page-head">
        <h1>Choices</h1>
        <span className="page-count">what can be chosen, in your words and your order</span>
      </header>
      <div className="setup-page">
        <nav aria-label="Lists of choices">
          <ul>
            {choiceListKeys.map((key) => (
              <li key={key}>
                <Link to={`?list=${key}`} aria-current={key === chosen ? 'page' : undefined}>
                  {choiceListOf(key).label}
                </Link>
              </li>
            ))}
          </ul>
        </nav>
        <ListEditor key={`${chosen} ${own?.version ?? 0}`} list={chosen} />
      </div>
    </>
  );
}
