import { outcomesOf, type AnyRecord } from '@zawn/core';
import { Input } from 'antd';
import { type TextAreaRef } from 'antd/es/input/TextArea';
import { useRef } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { OutcomeChips } from './outcome-chips';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';
import { NextStepFields } from './next-step-fields';
import { useEnding } from './use-ending';
import { whenInWords } from './when-input';

interface Props {
  activity: AnyRecord;
  close: () => void;
}

/** Finishes an activity: how it ended, a note, and what comes next, saved together. */
export function DoneForm({ activity, close }: Props) {
  const { catalogue } = useSession();
  const kind = String(activity.kind);
  // Whoever called calls again; what follows a meeting is work.
  const ending = useEnding(kind, kind === 'meeting' ? 'task' : kind);
  const { next } = ending.body;
  const { isHalf } = ending.next;
  const note = useRef<TextAreaRef>(null);
  const write = useWrite();
  const hasOutcomes = outcomesOf(catalogue, kind).length > 0;
  const save = () => {
    if (isHalf) return;
    write.mutate(
      {
        method: 'POST',
        path: `${pathOf('activity', activity.id)}/done`,
        version: activity.version,
        body: ending.body,
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
      label={next ? `Done, next ${whenInWords(next)}` : isHalf ? 'Say what and when' : 'Done, no next step'}
      isBusy={write.isPending}
      isReady={!isHalf}
    >
      <OutcomeChips
        autoFocus
        kind={kind}
        value={ending.outcome}
        onChange={(key) => {
          ending.choose(key);
          note.current?.focus();
        }}
      />
      <Input.TextArea
        ref={note}
        autoFocus={!hasOutcomes}
        autoSize={{ minRows: 2, maxRows: 6 }}
        value={ending.result}
        onChange={(event) => ending.setResult(event.target.value)}
        placeholder="What came of it"
        aria-label="Note"
        maxLength={5000}
      />
      <NextStepFields draft={ending.next} />
    </InlineForm>
  );
}
