import { type AnyRecord } from '@zawn/core';
import { Input } from 'antd';
import { type TextAreaRef } from 'antd/es/input/TextArea';
import { useRef, useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { OutcomeChips } from './outcome-chips';
import { InlineForm } from '../../platform/frame/inline-form';
import { NextStepFields, plannedFrom, useNextStepDraft } from './next-step-fields';
import { whenInWords } from './when-input';

interface Props {
  activity: AnyRecord;
  close: () => void;
}

/** Finishes an activity: how it ended, a note, and what comes next, saved together. */
export function DoneForm({ activity, close }: Props) {
  const [outcome, setOutcome] = useState<string | null>(null);
  const [result, setResult] = useState('');
  const draft = useNextStepDraft();
  const note = useRef<TextAreaRef>(null);
  const write = useWrite();
  const next = plannedFrom(draft, activity.kind === 'meeting' ? 'task' : String(activity.kind));
  const save = () => {
    if (draft.isHalf) return;
    write.mutate(
      {
        method: 'POST',
        path: `${pathOf('activity', activity.id)}/done`,
        version: activity.version,
        body: { outcome, result: result || null, next },
      },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      className="done-form"
      name={`Done: ${String(activity.name)}`}
      save={save}
      close={close}
      label={
        next ? `Done, next ${whenInWords(next)}` : draft.isHalf ? 'Say what and when' : 'Done, no next step'
      }
      isBusy={write.isPending}
      isReady={!draft.isHalf}
    >
      {activity.kind !== 'task' && (
        <OutcomeChips
          autoFocus
          value={outcome}
          onChange={(key) => {
            setOutcome(key);
            note.current?.focus();
          }}
        />
      )}
      <Input.TextArea
        ref={note}
        autoFocus={activity.kind === 'task'}
        autoSize={{ minRows: 2, maxRows: 6 }}
        value={result}
        onChange={(event) => setResult(event.target.value)}
        placeholder="What came of it"
        aria-label="Note"
        maxLength={5000}
      />
      <NextStepFields draft={draft} />
    </InlineForm>
  );
}
