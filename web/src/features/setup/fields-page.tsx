import {
  choiceLabel,
  fieldOf,
  fieldsOf,
  isCustomKey,
  objectType,
  customisable,
  type CustomField,
  type ObjectKey,
  type Usage,
} from '@zawn/core';
import { App, Button } from 'antd';
import { Archive, ArchiveRestore, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';
import { MoveButtons } from '../../platform/frame/move-buttons';
import { Empty } from '../../platform/frame/states';
import { keepPositions, useOrder } from '../../platform/frame/use-order';
import { keyFor } from '../../kernel/records/new-choice';
import { useSession } from '../../platform/sessions/session';
import { draftOf, FieldForm, HAS_CHOICES, NEW, type Draft } from './field-form';
import { QuickAddSetup } from './quick-add-setup';
import './setup.css';

/** The organisation’s own fields of an object: made, described, put in order, retired and brought back. */
export function Component() {
  const { customFields, catalogue } = useSession();
  const [parameters] = useSearchParams();
  const object = (customisable.find(({ key }) => key === parameters.get('of'))?.key ?? 'lead') as ObjectKey;
  const [editing, setEditing] = useState<number | 'new'>();
  const write = useWrite();
  const { modal } = App.useApp();
  const fields = customFields
    .filter((each) => each.object === object)
    .sort((a, b) => a.position - b.position || a.id - b.id);
  const sections = [...new Set(fields.flatMap(({ section }) => section ?? []))];
  const types = fieldOf(catalogue, 'customField', 'type');
  const patch = (field: CustomField, body: object) =>
    write.mutateAsync({
      method: 'PATCH',
      path: `/custom-fields/${field.id}`,
      version: field.version,
      body,
    });
  const save = async (field: CustomField | undefined, { choices, ...draft }: Draft) => {
    const body = {
      ...draft,
      choices: HAS_CHOICES.has(draft.type)
        ? JSON.stringify(choices.map((each) => ({ ...each, label: each.label.trim() })))
        : null,
    };
    if (field) await patch(field, body);
    else {
      const keys = new Set(fields.map(({ key }) => key));
      const key = keyFor(draft.label);
      let free = key;
      for (let count = 2; keys.has(free); count += 1) free = `${key.slice(0, 38)}${count}`;
      const position = (fields.at(-1)?.position ?? 0) + 1;
      await write.mutateAsync({
        method: 'POST',
        path: '/custom-fields',
        body: { ...body, object, key: free, position, retired: false },
      });
    }
    setEditing(undefined);
  };
  const [ordered, move] = useOrder(fields, (order, swapped) => keepPositions(order, swapped, patch));
  /** Retires a field, after saying who would miss it. */
  const retire = async (field: CustomField) => {
    const { views, rules = [] } = await call<Usage>('GET', `/custom-fields/${field.id}/usage`);
    const users = [...rules, ...views.map((name) => `the view “${name}”`)];
    if (users.length === 0) return patch(field, { retired: true });
    modal.confirm({
      title: `Retire “${field.label}”?`,
      content: `It is used by ${users.join(', ')}. Rules that ask about it will count for nobody, and views will leave it out and say so. Its values are kept.`,
      okText: `Retire ${field.label}`,
      onOk: () => patch(field, { retired: true }).catch(() => undefined),
    });
  };
  const quietly = (work: Promise<unknown>) => void work.catch(() => undefined);
  return (
    <>
      <header className="page-head">
        <h1>Fields</h1>
        <span className="page-count">fields you add appear on records, in tables, filters and files</span>
        <div className="page-tools">
          <Allowed object="customField" to="add">
            <Button type="primary" icon={<Plus size={15} />} onClick={() => setEditing('new')}>
              Field
            </Button>
          </Allowed>
        </div>
      </header>
      <div className="setup-page">
        <nav aria-label="Fields of">
          <ul>
            {customisable.map(({ key, label }) => (
              <li key={key}>
                <Link
                  to={`?of=${key}`}
                  aria-current={key === object ? 'page' : undefined}
                  onClick={() => setEditing(undefined)}
                >
                  {label}
                </Link>
              </li>
            ))}
          </ul>
        </nav>
        <section className="setup-main" aria-label={`Fields of ${objectType(object).plural.toLowerCase()}`}>
          {fields.length === 0 && editing !== 'new' && (
            <Empty title="No fields of your own here yet.">
              <p>Press “Field” to make one, or make one from a column while importing.</p>
            </Empty>
          )}
          <ol className="own-fields">
            {ordered.map((field, at) => (
              <li key={field.id} className={field.retired ? 'own-field-retired' : ''}>
                <div className="own-field-head">
                  <button
                    type="button"
                    aria-expanded={editing === field.id}
                    onClick={() => setEditing(editing === field.id ? undefined : field.id)}
                  >
                    {field.label}
                  </button>
                  <span className="second">
                    {choiceLabel(types, field.type)}
                    {field.required && ', required'}
                  </span>
                  <span className="second clip" title={field.help ?? undefined}>
                    {field.retired
                      ? 'retired, its values kept'
                      : `${field.section ?? 'More'}${field.help ? ` · ${field.help}` : ''}`}
                  </span>
                  <span>
                    <MoveButtons
                      name={field.label}
                      at={at}
                      count={fields.length}
                      move={(step) => move(at, step)}
                    />
                    <button
                      type="button"
                      className="icon-button"
                      onClick={() =>
                        quietly(field.retired ? patch(field, { retired: false }) : retire(field))
                      }
                      aria-label={`${field.retired ? 'Bring back' : 'Retire'} ${field.label}`}
                    >
                      {field.retired ? (
                        <ArchiveRestore size={14} aria-hidden />
                      ) : (
                        <Archive size={14} aria-hidden />
                      )}
                    </button>
                  </span>
                </div>
                {editing === field.id && (
                  <FieldForm
                    start={draftOf(field)}
                    sections={sections}
                    save={(draft) => quietly(save(field, draft))}
                    close={() => setEditing(undefined)}
                    isBusy={write.isPending}
                  />
                )}
              </li>
            ))}
            {editing === 'new' && (
              <li>
                <FieldForm
                  start={NEW}
                  sections={sections}
                  save={(draft) => quietly(save(undefined, draft))}
                  close={() => setEditing(undefined)}
                  isBusy={write.isPending}
                />
              </li>
            )}
          </ol>
          <QuickAddSetup key={object} object={object} />
          <div className="built-in-fields">
            <h2>Built in</h2>
            <p className="second">
              {fieldsOf(catalogue, object)
                .filter(([key]) => !isCustomKey(key))
                .map(([, { label }]) => label)
                .join(', ')}
            </p>
          </div>
        </section>
      </div>
    </>
  );
}
