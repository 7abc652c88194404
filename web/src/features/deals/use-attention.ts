import { attentionInWords, attentionOf, dayIn, type AnyRecord } from '@zawn/core';
import { useCallback } from 'react';
import { useSession } from '../../platform/sessions/session';

/** What needs attention about a deal, in words, the most pressing first; empty when all is well. */
export function useAttention(): (deal: AnyRecord) => string[] {
  const { stage, organisation, today } = useSession();
  return useCallback(
    (deal) => {
      const state = {
        outcome: String(deal.outcome),
        closeOn: String(deal.closeOn),
        nextStepOn: deal.nextStepOn as string | null,
        stageSince: dayIn(organisation.timeZone, String(deal.stageSince)),
        usualDays: stage(deal.stage)?.usualDays ?? Infinity,
      };
      return attentionOf(state, today).map(attentionInWords);
    },
    [stage, organisation.timeZone, today],
  );
}
