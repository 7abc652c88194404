import { type AnyRecord } from '@zawn/core';
import { nearDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { ViewPage } from '../../kernel/views/view-page';
import { GridOfDeals } from './grid-of-deals';
import { useAttention } from './use-attention';

/** Deals as the grid of stages and months, as a table, or drawn. */
export function Component() {
  const attention = useAttention();
  return (
    <ViewPage
      object="deal"
      empty="Deals stand here once a lead is converted or a deal added."
      grid={(design, onTotal) => <GridOfDeals design={design} onTotal={onTotal} />}
      show={{ nextStepOn: (deal: AnyRecord) => <NextStepCell words={attention(deal)[0]?.words} on={deal} /> }}
    />
  );
}

function NextStepCell({ words, on }: { words: string | undefined; on: AnyRecord }) {
  const { today } = useSession();
  if (words) return <span className="attention">{words}</span>;
  return on.nextStepOn === null ? null : `next step ${nearDate(String(on.nextStepOn), today)}`;
}
