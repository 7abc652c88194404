import { outcomesOf } from '@zawn/core';
import { useState } from 'react';
import { counted } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { plannedFrom, useNextStepDraft, type NextStepDraft } from './next-step-fields';

/** How an activity ended, as it is being said. */
export interface EndingDraft {
  /** The type of the activity. */
  kind: string;
  outcome: string | null;
  result: string;
  next: NextStepDraft;
  choose: (outcome: string | null) => void;
  setResult: (result: string) => void;
  /** As it is sent. */
  body: { outcome: string | null; result: string | null; next: ReturnType<typeof plannedFrom> };
}

/**
 * The state behind the ending of an activity of a type. An outcome proposes its next step where none was typed.
 * @param follows the type of what is planned next.
 */
export function useEnding(kind: string, follows: string): EndingDraft {
  const { catalogue } = useSession();
  const [outcome, setOutcome] = useState<string | null>(null);
  const [result, setResult] = useState('');
  const [proposed, setProposed] = useState('');
  const next = useNextStepDraft();
  const choose = (key: string | null) => {
    setOutcome(key);
    // What somebody typed stays.
    if (next.name !== proposed) return;
    const proposal = outcomesOf(catalogue, kind).find((each) => each.key === key)?.next;
    const when = proposal && (proposal.days === 0 ? 'today' : `in ${counted(proposal.days, 'working day')}`);
    setProposed(proposal?.name ?? '');
    next.setName(proposal?.name ?? '');
    next.setWords(when ?? '');
  };
  const body = { outcome, result: result || null, next: plannedFrom(next, follows) };
  return { kind, outcome, result, next, choose, setResult, body };
}
