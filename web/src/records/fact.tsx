import {
  type AnyRecord,
  type FieldValue as Value,
  type Names,
  type ObjectKey,
  type RecordAnswer,
  fieldOf,
  isSetType,
} from '@zawn/core';
import { useEffect, useRef, useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { ApiProblem } from '../api/client';
import { oneRecord, pathOf } from '../api/queries';
import { useWrite } from '../api/use-write';
import { useSession } from '../sessions/session';
import { FieldInput } from './field-input';
import { FieldValue } from './field-value';

interface Props {
  object: ObjectKey;
  fieldKey: string;
  record: AnyRecord;
  names: Names;
  readOnly?: boolean;
  className?: string;
  /** Begins as an input rather than as what is read: in the cell of a table. */
  startsEditing?: boolean;
  /** Called when the input is left, saved or not. */
  onLeave?: () => void;
}

/** Why a value was not taken, in words that belong beside the field. */
function complaintOf(error: unknown, fieldKey: string): string {
  if (!(error instanceof ApiProblem)) return 'This could not be saved. Try again.';
  if (error.problem.type === '/problems/stale-version') {
    return 'Someone changed this record meanwhile. It is up to date now; save again to keep what you typed.';
  }
  return error.fault(fieldKey) ?? error.message;
}

const isSame = (a: Value, b: Value) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** One field of a record, read and edited in the same place: Enter saves, Escape leaves it as it was. */
export function Fact({
  object,
  fieldKey,
  record,
  names,
  readOnly,
  className = '',
  startsEditing = false,
  onLeave,
}: Props) {
  const { catalogue } = useSession();
  const field = fieldOf(catalogue, object, fieldKey);
  const stored = record[fieldKey];
  const [draft, setDraft] = useState<Value | undefined>(startsEditing ? (stored ?? '') : undefined);
  const [complaint, setComplaint] = useState<string>();
  const button = useRef<HTMLButtonElement>(null);
  const wasEditing = useRef(false);
  const write = useWrite<AnyRecord>({ quiet: true });
  const queryClient = useQueryClient();
  const isEditing = draft !== undefined;

  useEffect(() => {
    // The keyboard goes on from the field that was just left.
    if (wasEditing.current && !isEditing) button.current?.focus();
    wasEditing.current = isEditing;
  }, [isEditing]);

  if (!field) return null;
  const isComputed = field.set !== undefined && field.set !== 'edit';
  const leave = () => {
    setDraft(undefined);
    setComplaint(undefined);
    onLeave?.();
  };
  const save = (value: Value) => {
    if (write.isPending) return;
    if (isSame(value === '' ? null : value, stored)) {
      leave();
      return;
    }
    write.mutate(
      {
        method: 'PATCH',
        path: pathOf(object, record.id),
        version: record.version,
        body: { [fieldKey]: value },
      },
      {
        onSuccess: ({ value: written }) => {
          queryClient.setQueryData<RecordAnswer>(
            oneRecord(object, record.id).queryKey,
            (answer) => answer && { ...answer, record: Object.assign({}, answer.record, written) },
          );
          leave();
        },
        onError: (error) => {
          setComplaint(complaintOf(error, fieldKey));
          void queryClient.invalidateQueries({ queryKey: oneRecord(object, record.id).queryKey });
        },
      },
    );
  };

  if (isEditing) {
    return (
      <div
        className={`fact-edit ${className}`}
        onKeyDown={(event) => {
          if (event.key === 'Escape') {
            event.stopPropagation();
            leave();
          }
          const inLines = field.type === 'longText' && !event.ctrlKey && !event.metaKey;
          const chooses =
            isSetType(field.type) ||
            field.type === 'choice' ||
            field.type === 'link' ||
            field.type === 'country' ||
            field.type === 'date';
          if (event.key === 'Enter' && !inLines && !chooses) {
            event.preventDefault();
            save(draft);
          }
        }}
        onBlur={(event) => {
          const staysInside = event.currentTarget.contains(event.relatedTarget);
          const inPopup =
            event.relatedTarget instanceof Element &&
            event.relatedTarget.closest('.ant-select-dropdown, .ant-picker-dropdown');
          if (!staysInside && !inPopup && !complaint) save(draft);
        }}
      >
        <FieldInput
          field={field}
          value={draft}
          onChange={setDraft}
          onPicked={save}
          autoFocus
          currency={field.currency ? String(record[field.currency] ?? '') || undefined : undefined}
          pipeline={Number(record.pipeline)}
          linkedName={names[field.to as ObjectKey]?.[Number(stored)]}
        />
        {complaint && (
          <p className="fact-complaint" role="alert">
            {complaint}
          </p>
        )}
      </div>
    );
  }
  const shown = (
    <FieldValue field={field} value={stored} record={record} names={names} asLink={isComputed || readOnly} />
  );
  if (isComputed || readOnly) return <div className={`fact-shown ${className}`}>{shown ?? '–'}</div>;
  return (
    <button
      ref={button}
      type="button"
      className={`fact-shown fact-button ${className}`}
      data-field={fieldKey}
      onClick={() => setDraft(stored ?? '')}
    >
      <span className="visually-hidden">Edit {field.label}: </span>
      {stored === null || stored === '' ? <span className="second">–</span> : shown}
    </button>
  );
}
