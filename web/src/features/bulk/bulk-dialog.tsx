import {
  fieldAt,
  fieldsOf,
  holdsFile,
  isCustomKey,
  type BulkAction,
  type BulkRequest,
  type Field,
  type FieldValue as Value,
  type ObjectKey,
  type Selection,
} from '@zawn/core';
import { Checkbox, Form, Modal, Select } from 'antd';
import { useState } from 'react';
import { useKinds } from '../activities/kinds';
import { hasPart } from '../activities/place-and-attendees';
import { FieldInput } from '../../kernel/records/field-input';
import { useSession } from '../../platform/sessions/session';
import './bulk.css';
import { BulkForecast } from './bulk-forecast';
import { useBulkDialog } from './use-bulk';

export type BulkTask = 'change' | 'tag' | 'plan' | 'delete';

interface Props {
  task: BulkTask;
  object: ObjectKey;
  /** The object's name for so many: `deals`. */
  what: string;
  selection: Selection;
  onDone: () => void;
  close: () => void;
}

const titles: Record<BulkTask, (what: string) => string> = {
  change: (what) => `Change a field of ${what}`,
  tag: (what) => `Tag ${what}`,
  plan: (what) => `Plan an activity on ${what}`,
  delete: (what) => `Delete ${what}`,
};

/** Fields that many records can be given the same value of. */
function changeable(fields: readonly [string, Field][]): { value: string; label: string }[] {
  const unlikely = new Set(['name', 'email', 'phone', 'mobile', 'number', 'tags']);
  return fields
    .filter(
      ([key, field]) =>
        (field.set ?? 'edit') === 'edit' &&
        field.type !== 'longText' &&
        !holdsFile(field) &&
        (isCustomKey(key) || !unlikely.has(key)),
    )
    .map(([value, { label }]) => ({ value, label }));
}

/** One action on many records: what it is, what it would do, and a button that says so. */
export function BulkDialog({ task, object, what, selection, onDone, close }: Props) {
  const { catalogue, today } = useSession();
  const kinds = useKinds();
  const [field, setField] = useState<string>();
  const [value, setValue] = useState<Value>(null);
  const [isEmptied, setEmptied] = useState(false);
  const [add, setAdd] = useState<string[]>([]);
  const [remove, setRemove] = useState<string[]>([]);
  const [activity, setActivity] = useState<Record<string, Value>>({ name: '', kind: 'call', dueOn: today });
  const fields = fieldsOf(catalogue, object);
  const chosen = field === undefined ? undefined : fieldAt(catalogue, object, field);
  // Emptying a field of many records is said, not come about by leaving it blank.
  const isGiven = value !== null && value !== '';
  const action: BulkAction | undefined = {
    change:
      field === undefined || !(isEmptied || isGiven)
        ? undefined
        : ({ do: 'change', values: { [field]: isEmptied ? null : value } } as const),
    tag: add.length + remove.length > 0 ? ({ do: 'tag', add, remove } as const) : undefined,
    plan: String(activity.name).trim() ? ({ do: 'plan', activity } as const) : undefined,
    delete: { do: 'delete' } as const,
  }[task];
  const request: BulkRequest | undefined = action && { object, selection, action };
  const { isBusy, run } = useBulkDialog(request, onDone, close);
  const inputFor = (key: string, its: Field, of: Value, onChange: (next: Value) => void) => (
    <FieldInput id={`bulk-${key}`} field={its} value={of} onChange={onChange} />
  );
  const planned = (key: string) => fieldAt(catalogue, 'activity', key) as Field;
  return (
    <Modal
      open
      title={titles[task](what)}
      okText={task === 'delete' ? `Delete ${what}` : task === 'plan' ? `Plan on ${what}` : `Change ${what}`}
      okButtonProps={{ disabled: !request, danger: task === 'delete', loading: isBusy }}
      onOk={run}
      onCancel={close}
      width={560}
    >
      <Form layout="vertical">
        {task === 'change' && (
          <div className="form-pair">
            <Form.Item label="Field" htmlFor="bulk-field">
              <Select
                id="bulk-field"
                autoFocus
                showSearch={{ optionFilterProp: 'label' }}
                placeholder="Which field"
                value={field}
                options={changeable(fields)}
                onChange={(key) => {
                  setField(key);
                  setValue(null);
                  setEmptied(false);
                }}
              />
            </Form.Item>
            {chosen && field && (
              <Form.Item label="New value" htmlFor={`bulk-${field}`}>
                {field === 'stage' ? (
                  <StagePicker value={value} onChange={setValue} />
                ) : (
                  inputFor(field, chosen, value, setValue)
                )}
              </Form.Item>
            )}
          </div>
        )}
        {task === 'change' && chosen && !chosen.required && (
          <Checkbox checked={isEmptied} onChange={(event) => setEmptied(event.target.checked)}>
            Empty the field instead
          </Checkbox>
        )}
        {task === 'tag' && (
          <div className="form-pair">
            <Form.Item label="Add tags" htmlFor="bulk-add">
              <Select id="bulk-add" mode="tags" autoFocus value={add} onChange={setAdd} open={false} />
            </Form.Item>
            <Form.Item label="Take tags away" htmlFor="bulk-remove">
              <Select id="bulk-remove" mode="tags" value={remove} onChange={setRemove} open={false} />
            </Form.Item>
          </div>
        )}
        {task === 'plan' && (
          <>
            <Form.Item label="What" htmlFor="bulk-name">
              {inputFor('name', planned('name'), activity.name, (name) => setActivity({ ...activity, name }))}
            </Form.Item>
            <div className="form-pair">
              <Form.Item label="Type" htmlFor="bulk-kind">
                <Select
                  id="bulk-kind"
                  options={kinds}
                  value={activity.kind as string}
                  onChange={(kind: string) => setActivity({ ...activity, kind, place: null })}
                />
              </Form.Item>
              <Form.Item label="Due" htmlFor="bulk-dueOn">
                {inputFor('dueOn', planned('dueOn'), activity.dueOn, (dueOn) =>
                  setActivity({ ...activity, dueOn }),
                )}
              </Form.Item>
            </div>
            {hasPart(catalogue, String(activity.kind), 'place') && (
              <Form.Item label="Place" htmlFor="bulk-place">
                {inputFor('place', planned('place'), activity.place, (place) =>
                  setActivity({ ...activity, place }),
                )}
              </Form.Item>
            )}
            <p className="second">Each is planned for the owner of its record.</p>
          </>
        )}
      </Form>
      {task === 'delete' && <p>They go to the bin for 30 days, and this can be undone.</p>}
      {request && <BulkForecast request={request} />}
    </Modal>
  );
}

/** A stage of any pipeline; records of another pipeline will say that they cannot take it. */
function StagePicker({ value, onChange }: { value: Value; onChange: (value: Value) => void }) {
  const { pipelinesInUse, stagesOf } = useSession();
  return (
    <Select
      id="bulk-stage"
      value={value as number | null}
      onChange={onChange}
      options={pipelinesInUse.map(({ id, name }) => ({
        label: name,
        options: stagesOf(id).map((stage) => ({ value: stage.id, label: stage.name })),
      }))}
    />
  );
}
