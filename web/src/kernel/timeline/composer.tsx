import { type AnyRecord, type SubjectKey } from '@zawn/core';
import { Input } from 'antd';
import { useState } from 'react';
import { NextStepFields, plannedFrom, useNextStepDraft } from '../../features/activities/next-step-fields';
import { OutcomeChips } from '../../features/activities/outcome-chips';
import { PlanForm } from '../../features/activities/plan-form';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { NoteForm } from './note-form';

export type ComposerTab = 'note' | 'call' | 'meeting' | 'plan';

interface Props {
  object: SubjectKey;
  record: AnyRecord;
  /** Which form is open; none leaves only the row of choices. */
  tab: ComposerTab | undefined;
  setTab: (tab: ComposerTab | undefined) => void;
}

const tabs: [ComposerTab, string, string][] = [
  ['note', 'Note', 'm'],
  ['call', 'Log a call', ''],
  ['meeting', 'Log a meeting', ''],
  ['plan', 'Plan', 'n'],
];

function LogForm({
  kind,
  object,
  record,
  close,
}: {
  kind: 'call' | 'meeting';
  object: SubjectKey;
  record: AnyRecord;
  close: () => void;
}) {
  const [outcome, setOutcome] = useState<string | null>(null);
  const [result, setResult] = useState('');
  const draft = useNextStepDraft();
  const write = useWrite();
  const save = () => {
    if (draft.isHalf) return;
    const activity = { name: kind === 'call' ? 'Call' : 'Meeting', kind, [object]: record.id };
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

/** Writes to a record's timeline: a note, a call or meeting that took place, or what is planned. */
export function Composer({ object, record, tab, setTab }: Props) {
  const close = () => setTab(undefined);
  const props = { object, record, close };
  return (
    <div className="composer">
      <div className="composer-tabs" role="group" aria-label="Write">
        {tabs.map(([key, label, shortcut]) => (
          <button
            key={key}
            type="button"
            aria-pressed={tab === key}
            aria-keyshortcuts={shortcut || undefined}
            onClick={() => setTab(tab === key ? undefined : key)}
          >
            {label}
          </button>
        ))}
      </div>
      {tab === 'note' && <NoteForm on={{ object, id: record.id }} close={close} />}
      {(tab === 'call' || tab === 'meeting') && <LogForm key={tab} kind={tab} {...props} />}
      {tab === 'plan' && <PlanForm on={{ object, id: record.id }} close={close} />}
    </div>
  );
}
