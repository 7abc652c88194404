import {
  type AnyRecord,
  type Field,
  type FieldValue as Value,
  type Names,
  type ObjectKey,
  type RecordAnswer,
  fieldOf,
  holdsFile,
  isSetType,
  isCustomisable,
  isSubject,
} from '@zawn/core';
import { useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { Phone } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { ApiProblem } from '../../platform/api/client';
import { oneRecord, pathOf } from '../../platform/api/queries';
import { isFocusLost } from '../../platform/frame/focus';
import { useOpening } from '../../platform/frame/opening';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { FileFact } from '../files/file-fact';
import { FieldInput } from './field-input';
import { FieldValue } from './field-value';
import { changedMeanwhile, isSame, type Meanwhile } from './meanwhile';
import './fact.css';

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

/** Why a value was not taken, in words that belong beside the field, and where what is missing is asked for. */
interface Complaint {
  words: string;
  part?: string | undefined;
}

function complaintOf(error: unknown, fieldKey: string): Complaint {
  if (!(error instanceof ApiProblem)) return { words: 'This could not be saved. Try again.' };
  const { part } = error.problem;
  return { words: (part === undefined ? error.fault(fieldKey) : undefined) ?? error.message, part };
}

/** The record as it is now, where a write was refused because someone had changed it. */
function currentIn(error: unknown): AnyRecord | undefined {
  return error instanceof ApiProblem && error.problem.type === '/problems/stale-version'
    ? error.problem.current
    : undefined;
}

/** One field of a record, read and edited in the same place. */
export function Fact(props: Props) {
  const { catalogue } = useSession();
  const { object, fieldKey, readOnly } = props;
  const field = fieldOf(catalogue, object, fieldKey);
  if (!field) return null;
  if (holdsFile(field) && !readOnly && isCustomisable(object))
    return <FileFact {...props} object={object} field={field} />;
  return <TypedFact {...props} field={field} />;
}

/** A field whose value is typed or chosen: Enter saves, Escape leaves it as it was. */
function TypedFact({
  object,
  fieldKey,
  field,
  record,
  names,
  readOnly,
  className = '',
  startsEditing = false,
  onLeave,
}: Props & { field: Field }) {
  const { catalogue } = useSession();
  const stored = record[fieldKey];
  const [draft, setDraft] = useState<Value | undefined>(startsEditing ? (stored ?? '') : undefined);
  const [complaint, setComplaint] = useState<Complaint>();
  /** The record as it was when the editing began; what differs from it was changed by someone else. */
  const [seen, setSeen] = useState(record);
  /** What a refusal showed, where it is newer than what the page holds. */
  const [told, setTold] = useState<AnyRecord>();
  /** What others had changed when this was saved beside it. */
  const [beside, setBeside] = useState<Meanwhile[]>([]);
  const button = useRef<HTMLButtonElement>(null);
  const wasEditing = useRef(false);
  const write = useWrite<AnyRecord>({ quiet: true });
  const queryClient = useQueryClient();
  const { open } = useOpening();
  const isEditing = draft !== undefined;

  useEffect(() => {
    // The keyboard goes on from the field that was just left, unless the person has gone elsewhere while it was saved.
    if (wasEditing.current && !isEditing && isFocusLost()) button.current?.focus();
    wasEditing.current = isEditing;
  }, [isEditing]);

  const isComputed = field.set !== undefined && field.set !== 'edit';
  const latest = told && told.version > record.version ? told : record;
  const meanwhile = isEditing ? changedMeanwhile(catalogue, object, seen, latest) : [];
  const clash = meanwhile.find(({ key }) => key === fieldKey);
  const begin = () => {
    setSeen(record);
    setTold(undefined);
    setBeside([]);
    setDraft(stored ?? '');
  };
  const leave = () => {
    setDraft(undefined);
    setComplaint(undefined);
    onLeave?.();
  };
  const save = (value: Value, over = latest) => {
    if (write.isPending) return;
    if (isSame(value === '' ? null : value, over[fieldKey])) {
      leave();
      return;
    }
    write.mutate(
      {
        method: 'PATCH',
        path: pathOf(object, record.id),
        version: over.version,
        body: { [fieldKey]: value },
      },
      {
        onSuccess: ({ value: written }) => {
          queryClient.setQueryData<RecordAnswer>(
            oneRecord(object, record.id).queryKey,
            (answer) => answer && { ...answer, record: Object.assign({}, answer.record, written) },
          );
          setBeside(changedMeanwhile(catalogue, object, seen, over).filter(({ key }) => key !== fieldKey));
          leave();
        },
        onError: (error) => {
          void queryClient.invalidateQueries({ queryKey: oneRecord(object, record.id).queryKey });
          const current = currentIn(error);
          setTold(current);
          if (!current) setComplaint(complaintOf(error, fieldKey));
          // Where both changed different fields, both are kept; the same field is for the person to decide.
          else if (isSame(current[fieldKey], seen[fieldKey])) save(value, current);
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
          if (event.key === 'Enter' && !inLines && !chooses && !clash) {
            event.preventDefault();
            save(draft);
          }
        }}
        onBlur={(event) => {
          const staysInside = event.currentTarget.contains(event.relatedTarget);
          const inPopup =
            event.relatedTarget instanceof Element &&
            event.relatedTarget.closest('.ant-select-dropdown, .ant-picker-dropdown');
          if (!staysInside && !inPopup && !complaint && !clash) save(draft);
        }}
      >
        <FieldInput
          field={field}
          value={draft}
          onChange={setDraft}
          onPicked={(value) => (clash ? setDraft(value) : save(value))}
          autoFocus
          currency={field.currency ? String(record[field.currency] ?? '') || undefined : undefined}
          pipeline={Number(record.pipeline)}
          linkedName={names[field.to as ObjectKey]?.[Number(stored)]}
        />
        {complaint && (
          <p className="fact-complaint" role="alert">
            {complaint.words}
            {complaint.part !== undefined && isSubject(object) && (
              <Button
                size="small"
                onClick={() => {
                  open(object, record.id, { part: complaint.part });
                  leave();
                }}
              >
                Answer it
              </Button>
            )}
          </p>
        )}
        {meanwhile.length > 0 && (
          <div className="fact-meanwhile" role="status">
            <MeanwhileList changes={meanwhile} record={latest} names={names} />
            {clash && (
              <p>
                <Button size="small" type="primary" onClick={() => save(draft)}>
                  Keep mine
                </Button>
                <Button size="small" onClick={leave}>
                  Take theirs
                </Button>
              </p>
            )}
          </div>
        )}
      </div>
    );
  }
  const shown = (
    <FieldValue field={field} value={stored} record={record} names={names} asLink={isComputed || readOnly} />
  );
  if (isComputed || readOnly) return <div className={`fact-shown ${className}`}>{shown ?? '–'}</div>;
  return (
    <>
      <button
        ref={button}
        type="button"
        className={`fact-shown fact-button ${className}`}
        data-field={fieldKey}
        onClick={begin}
      >
        <span className="visually-hidden">Edit {field.label}: </span>
        {stored === null || stored === '' ? <span className="second">–</span> : shown}
      </button>
      {field.type === 'phone' && stored && (
        <a className="fact-ring" href={`tel:${String(stored)}`} aria-label={`Call ${String(stored)}`}>
          <Phone size={14} aria-hidden />
        </a>
      )}
      {beside.length > 0 && (
        <div className="fact-meanwhile" role="status">
          <MeanwhileList changes={beside} record={record} names={names} />
        </div>
      )}
    </>
  );
}

/** What someone else changed at the record meanwhile, field by field. */
function MeanwhileList({
  changes,
  record,
  names,
}: {
  changes: readonly Meanwhile[];
  record: AnyRecord;
  names: Names;
}) {
  const shown = (field: Field, value: Value) =>
    value === null ? 'empty' : <FieldValue field={field} value={value} record={record} names={names} />;
  return (
    <>
      Changed by someone else meanwhile:
      <ul>
        {changes.map(({ key, field, from, to }) => (
          <li key={key}>
            <b>{field.label}</b> <s>{shown(field, from)}</s> → {shown(field, to)}
          </li>
        ))}
      </ul>
    </>
  );
}
