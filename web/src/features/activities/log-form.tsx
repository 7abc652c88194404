import { type SubjectKey } from '@zawn/core';
import { Input } from 'antd';
import { useState } from 'react';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { NextStepFields, plannedFrom, useNextStepDraft } from './next-step-fields';
import { OutcomeChips } from './outcome-chips';

interface Props {
  on: { object: SubjectKey; id: number };
  close: () => void;
}

/** What took place, what came of it, and what follows. */
function LogForm({ kind, on: { object, id }, close }: Props & { kind: 'call' | 'meeting' }) {
  const [outcome, setOutcome] = useState<string | null>(null);
  const [result, setResult] = useState('');
  const draft = useNextStepDraft();
  const write = useWrite();
  const save = () => {
    if (draft.isHalf) return;
    const activity = { name: kind === 'call' ? 'Call' : 'Meeting', kind, [object]: id };
    const next = plannedFrom(draft, 'task');
    write.mutate(
      {
        method: 'POST',
        path: '/activities/logged',
        body: { activity, outcome, result: result || null, next },
      },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      save={save}
      close={close}
      label={kind === 'call' ? 'Save call' : 'Save meeting'}
      isBusy={write.isPending}
      isReady={!draft.isHalf}
    >
      <OutcomeChips value={outcome} onChange={setOutcome} />
      <Input.TextArea
        autoFocus
        autoSize={{ minRows: 2, maxRows: 8 }}
        value={result}
        onChange={(event) => setResult(event.target.value)}
        placeholder="What was said"
        aria-label="Note"
        maxLength={5000}
      />
      <NextStepFields draft={draft} />
    </InlineForm>
  );
}

export const LogCall = (props: Props) => <LogForm kind="call" {...props} />;
export const LogMeeting = (props: Props) => <LogForm kind="meeting" {...props} />;
