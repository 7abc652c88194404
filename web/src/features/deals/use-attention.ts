import { attentionInWords, attentionOf, dayIn, isPressing, type AnyRecord, type Attention } from '@zawn/core';
import { useCallback } from 'react';
import { useSession } from '../../platform/sessions/session';

/** Something about a deal, in words. */
export interface Noticed {
  kind: Attention['kind'];
  words: string;
  /** Whether it is a reason to look at the deal today. */
  isPressing: boolean;
}

/** What needs attention about a deal, the most pressing first; empty when all is well. */
export function useAttention(): (deal: AnyRecord) => Noticed[] {
  const { stage, organisation, today } = useSession();
  return useCallback(
    (deal) => {
      const state = {
        outcome: String(deal.outcome),
        closeOn: String(deal.closeOn),
        nextStepOn: deal.nextStepOn as string | null,
        stageSince: dayIn(organisation.timeZone, String(deal.stageSince)),
        usualDays: stage(deal.stage)?.usualDays ?? Infinity,
        timesPushed: Number(deal.timesPushed ?? 0),
        // Where that is not seen, nothing is said about it.
        deciderNamed: deal.deciderNamed !== false,
      };
      return attentionOf(state, today).map((each) => ({
        kind: each.kind,
        words: attentionInWords(each),
        isPressing: isPressing(each),
      }));
    },
    [stage, organisation.timeZone, today],
  );
}
