import {
  choiceLabel,
  choicesIn,
  fieldOf,
  fieldsOf,
  isCustomKey,
  objectType,
  viewed,
  type Choice,
  type CustomField,
  type FieldValue,
  type ObjectKey,
} from '@zawn/core';
import { Button, Checkbox, Input, Select } from 'antd';
import { Archive, ArchiveRestore, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useWrite } from '../api/use-write';
import { moved, Mover } from '../frame/mover';
import { Empty } from '../frame/states';
import { keyFor } from '../imports/new-field';
import { FieldInput } from '../records/field-input';
import { useQuickAdd } from '../records/quick-fields';
import { useSession } from '../sessions/session';
import { ChoicesEditor } from './choices-editor';
import './setup.css';

type Draft = Pick<CustomField, 'label' | 'type' | 'required' | 'help' | 'section' | 'to' | 'preset'> & {
  choices: readonly Choice[];
};

const NEW: Draft = {
  label: '',
  type: 'text',
  required: false,
  help: null,
  section: null,
  to: null,
  preset: null,
  choices: [],
};
const isBlank = (value: FieldValue) =>
  value === null || value === '' || (Array.isArray(value) && value.length === 0);
const HAS_CHOICES = new Set(['choice', 'choices']);
const linkable = ['person', 'lead', 'contact', 'account', 'deal'] as const;

const draftOf = ({ label, type, required, help, section, to, preset, choices }: CustomField): Draft => ({
  label,
  type,
  required,
  help,
  section,
  to,
  preset,
  choices: choicesIn(choices),
});

/** Which fields the short form for a new record asks for. */
function QuickAddSetup({ object }: { object: ObjectKey }) {
  const { catalogue } = useSession();
  const setUp = useQuickAdd(object);
  const write = useWrite();
  if (!setUp) return null;
  const { own, chosen } = setUp;
  const save = (keys: string[]) => {
    const fields = JSON.stringify(keys);
    if (own)
      write.mutate({
        method: 'PATCH',
        path: `/quick-adds/${own.id}`,
        version: own.version,
        body: { fields },
      });
    else write.mutate({ method: 'POST', path: '/quick-adds', body: { object, fields } });
  };
  return (
    <div className="quick-add-setup">
      <h3>Asked for in the short form, in this order</h3>
      <Select
        mode="multiple"
        value={[...chosen]}
        onChange={(keys: string[]) => keys.length > 0 && save(keys)}
        showSearch={{ optionFilterProp: 'label' }}
        options={fieldsOf(catalogue, object)
          .filter(([, { set = 'edit' }]) => set === 'edit' || set === 'once')
          .map(([key, { label }]) => ({ value: key, label }))}
        aria-label="Fields of the short form"
      />
      {own && (
        <Button
          type="link"
          size="small"
          onClick={() =>
            write.mutate({ method: 'DELETE', path: `/quick-adds/${own.id}`, version: own.version })
          }
        >
          As usual
        </Button>
      )}
    </div>
  );
}

/** Everything that is said of a field; what it is made of is sent when it is saved. */
function FieldForm({
  start,
  sections,
  save,
  close,
  isBusy,
}: {
  start: Draft;
  sections: readonly string[];
  save: (draft: Draft) => void;
  close: () => void;
  isBusy: boolean;
}) {
  const { catalogue } = useSession();
  const [draft, setDraft] = useState(start);
  const change = (part: Partial<Draft>) => setDraft((before) => ({ ...before, ...part }));
  const types = fieldOf(catalogue, 'customField', 'type')?.choices ?? [];
  const isReady =
    draft.label.trim() !== '' &&
    (!HAS_CHOICES.has(draft.type) || draft.choices.length > 0) &&
    (draft.type !== 'link' || draft.to !== null);
  return (
    <form
      className="own-field-form"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) save(draft);
      }}
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <label>
        Label
        <Input
          autoFocus
          value={draft.label}
          maxLength={60}
          onChange={({ target }) => change({ label: target.value })}
        />
      </label>
      <label>
        Type
        <Select
          value={draft.type}
          options={types.map(({ key, label }) => ({ value: key as Draft['type'], label }))}
          onChange={(type) =>
            change({ type, preset: null, to: type === 'link' ? (draft.to ?? 'person') : draft.to })
          }
          aria-label="Type"
        />
      </label>
      {draft.type === 'link' && (
        <label>
          Links to
          <Select
            value={draft.to}
            options={linkable.map((key) => ({ value: key, label: objectType(key).label }))}
            onChange={(to: string) => change({ to })}
            aria-label="Links to"
          />
        </label>
      )}
      <label>
        Section
        <Select
          mode="tags"
          maxCount={1}
          value={draft.section ? [draft.section] : []}
          options={sections.map((section) => ({ value: section, label: section }))}
          onChange={([section]: string[]) => change({ section: section ?? null })}
          placeholder="More"
          aria-label="Section"
        />
      </label>
      <label className="wide">
        Help
        <Input
          value={draft.help ?? ''}
          maxLength={200}
          placeholder="What belongs in it, for those who fill it in"
          onChange={({ target }) => change({ help: target.value || null })}
        />
      </label>
      <label className="wide" htmlFor="own-field-preset">
        New ones begin as
        <FieldInput
          id="own-field-preset"
          field={{
            label: 'New ones begin as',
            type: draft.type,
            ...(draft.to ? { to: draft.to } : {}),
            choices: draft.choices,
          }}
          value={draft.preset === null ? null : (JSON.parse(draft.preset) as FieldValue)}
          onChange={(value) => change({ preset: isBlank(value) ? null : JSON.stringify(value) })}
        />
      </label>
      {HAS_CHOICES.has(draft.type) && (
        <div className="wide own-field-choices">
          Choices
          <ChoicesEditor choices={draft.choices} onChange={(choices) => change({ choices })} />
        </div>
      )}
      <Checkbox
        className="wide"
        checked={draft.required}
        onChange={({ target }) => change({ required: target.checked })}
      >
        Required for new records; those there already stay as they are
      </Checkbox>
      <footer>
        <Button type="primary" htmlType="submit" disabled={!isReady} loading={isBusy}>
          Save field
        </Button>
        <Button onClick={close}>Cancel</Button>
      </footer>
    </form>
  );
}

/** The organisation’s own fields of an object: made, described, put in order, retired and brought back. */
export function Component() {
  const { customFields, catalogue } = useSession();
  const [parameters] = useSearchParams();
  const object = (viewed.find(({ key }) => key === parameters.get('of'))?.key ?? 'lead') as ObjectKey;
  const [editing, setEditing] = useState<number | 'new'>();
  const write = useWrite();
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
  const move = async (at: number, step: 1 | -1) => {
    for (const [position, field] of moved(fields, at, step).entries())
      if (field.position !== position) await patch(field, { position });
  };
  const quietly = (work: Promise<unknown>) => void work.catch(() => undefined);
  return (
    <>
      <header className="page-head">
        <h1>Fields</h1>
        <span className="page-count">your own, at once on the sheet, in tables, questions and files</span>
        <div className="page-tools">
          <Button type="primary" icon={<Plus size={15} />} onClick={() => setEditing('new')}>
            Field
          </Button>
        </div>
      </header>
      <div className="setup-page">
        <nav aria-label="Fields of">
          <ul>
            {viewed.map(({ key, label }) => (
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
            {fields.map((field, at) => (
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
                    <Mover
                      name={field.label}
                      at={at}
                      count={fields.length}
                      move={(step) => quietly(move(at, step))}
                    />
                    <button
                      type="button"
                      className="icon-button"
                      onClick={() => quietly(patch(field, { retired: !field.retired }))}
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
            <h3>Come with Zawn</h3>
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
