import { type AnyRecord } from '@zawn/core';
import { ViewPage } from '../views/view-page';
import { GridOfDeals } from './grid-of-deals';
import { useAttention } from './use-attention';

/** Deals as the grid of stages and months, as a table, or drawn. */
export function Component() {
  const attention = useAttention();
  return (
    <ViewPage
      object="deal"
      empty="Deals stand here once a lead is converted or a deal added."
      grid={(design) => <GridOfDeals design={design} />}
      show={{ nextStepOn: (deal: AnyRecord) => <NextStepCell words={attention(deal)[0]} on={deal} /> }}
    />
  );
}

function NextStepCell({ words, on }: { words: string | undefined; on: AnyRecord }) {
  return words ? <span className="attention">{words}</span> : <span>{String(on.nextStepOn ?? '')}</span>;
}
