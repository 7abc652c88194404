import {
  choicesIn,
  fieldOf,
  objectType,
  type Choice,
  type CustomField,
  type FieldType,
  type FieldValue,
} from '@zawn/core';
import { Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { FieldInput } from '../../kernel/records/field-input';
import { useSession } from '../../platform/sessions/session';
import { ChoicesEditor } from './choices-editor';

/** What is said of a field of one’s own while it is being made or changed. */
export type Draft = Pick<
  CustomField,
  'label' | 'type' | 'required' | 'help' | 'section' | 'to' | 'preset'
> & {
  choices: readonly Choice[];
};

/** A field that nothing is said of yet. */
export const NEW: Draft = {
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
/** Types that come with a list of choices. */
export const HAS_CHOICES = new Set(['choice', 'choices']);
const linkable = ['person', 'lead', 'contact', 'account', 'deal'] as const;

/** A field as it is said now. */
export const draftOf = ({
  label,
  type,
  required,
  help,
  section,
  to,
  preset,
  choices,
}: CustomField): Draft => ({
  label,
  type,
  required,
  help,
  section,
  to,
  preset,
  choices: choicesIn(choices),
});

/** Everything that is said of a field; what it is made of is sent when it is saved. */
export function FieldForm({
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
  const holdsFile = draft.type === 'file';
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
          showSearch={{ optionFilterProp: 'label' }}
          options={types.map(({ key, label }) => ({ value: key as Draft['type'], label }))}
          onChange={(type) =>
            change({
              type,
              preset: null,
              to: type === 'link' ? (draft.to ?? 'person') : draft.to,
              // A file is put on a record that is there already.
              required: draft.required && type !== 'file',
            })
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
      {!holdsFile && (
        <label className="wide" htmlFor="own-field-preset">
          New ones begin as
          <FieldInput
            id="own-field-preset"
            field={{
              label: 'New ones begin as',
              type: draft.type as FieldType,
              ...(draft.to ? { to: draft.to } : {}),
              choices: draft.choices,
            }}
            value={draft.preset === null ? null : (JSON.parse(draft.preset) as FieldValue)}
            onChange={(value) => change({ preset: isBlank(value) ? null : JSON.stringify(value) })}
          />
        </label>
      )}
      {HAS_CHOICES.has(draft.type) && (
        <div className="wide own-field-choices">
          Choices
          <ChoicesEditor choices={draft.choices} onChange={(choices) => change({ choices })} />
        </div>
      )}
      {!holdsFile && (
        <Checkbox
          className="wide"
          checked={draft.required}
          onChange={({ target }) => change({ required: target.checked })}
        >
          Required for new records; those there already stay as they are
        </Checkbox>
      )}
      <footer>
        <Button type="primary" htmlType="submit" disabled={!isReady} loading={isBusy}>
          Save field
        </Button>
        <Button onClick={close}>Cancel</Button>
      </footer>
    </form>
  );
}
