import { choiceLabel, fieldOf, touchTypes, type SubjectKey } from '@zawn/core';
import { Input, Select } from 'antd';
import { type TextAreaRef } from 'antd/es/input/TextArea';
import { useRef, useState } from 'react';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';
import { useKinds } from './kinds';
import { NextStepFields } from './next-step-fields';
import { OutcomeChips } from './outcome-chips';
import { NO_DETAILS, writtenDetails } from './task-details';
import { PlaceAndAttendees } from './place-and-attendees';
import { useEnding } from './use-ending';

interface Props {
  on: { object: SubjectKey; id: number };
  close: () => void;
}

interface LogProps extends Props {
  kind: string;
  /** Lets another type be chosen. */
  setKind?: (kind: string) => void;
}

/** What took place, what came of it, and what follows. */
function LogForm({ kind, setKind, on: { object, id }, close }: LogProps) {
  const { catalogue } = useSession();
  const label = choiceLabel(fieldOf(catalogue, 'activity', 'kind'), kind);
  const ending = useEnding(kind, 'task');
  const [details, setDetails] = useState(NO_DETAILS);
  const note = useRef<TextAreaRef>(null);
  const write = useWrite();
  const save = () => {
    if (ending.next.isHalf) return;
    const { place, alsoAbout } = writtenDetails(details);
    const activity = { name: label, kind, place, alsoAbout, [object]: id };
    write.mutate(
      { method: 'POST', path: '/activities/logged', body: { activity, ...ending.body } },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      save={save}
      close={close}
      label={`Save ${label.toLowerCase()}`}
      isBusy={write.isPending}
      isReady={!ending.next.isHalf}
    >
      {setKind && <OtherKinds value={kind} onChange={setKind} />}
      <OutcomeChips
        autoFocus={!setKind}
        kind={kind}
        value={ending.outcome}
        onChange={(key) => {
          ending.choose(key);
          note.current?.focus();
        }}
      />
      <Input.TextArea
        ref={note}
        autoSize={{ minRows: 2, maxRows: 8 }}
        value={ending.result}
        onChange={(event) => ending.setResult(event.target.value)}
        placeholder="What was said"
        aria-label="Note"
        maxLength={5000}
      />
      <PlaceAndAttendees kind={kind} value={details} onChange={setDetails} />
      <NextStepFields draft={ending.next} />
    </InlineForm>
  );
}

/** The types that have no form of their own. */
const withForms = ['call', 'meeting'];

function OtherKinds({ value, onChange }: { value: string; onChange: (kind: string) => void }) {
  const kinds = useKinds().filter((each) => !withForms.includes(each.value));
  return <Select autoFocus value={value} options={kinds} onChange={onChange} aria-label="Type" />;
}

export const LogCall = (props: Props) => <LogForm kind="call" {...props} />;
export const LogMeeting = (props: Props) => <LogForm kind="meeting" {...props} />;

/** Something of a type of the organisation’s own, or a task, that was done. */
export function LogOther(props: Props) {
  const { catalogue } = useSession();
  const own = touchTypes(catalogue).find((key) => !withForms.includes(key));
  const [kind, setKind] = useState(own ?? 'task');
  // What was chosen for one type says nothing of another.
  return <LogForm key={kind} kind={kind} setKind={setKind} {...props} />;
}
