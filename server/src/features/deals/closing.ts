import { type AnyRecord } from '@zawn/core';
import { Problem } from '../../platform/http/problem';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** Closes an open deal on a day; with a date to try again, plans a call on it. */
export async function closeDeal(
  unit: Unit,
  deal: AnyRecord,
  closing: Values & { outcome: 'won' | 'lost'; closedOn: string },
  version = deal.version,
): Promise<AnyRecord> {
  unit.mustMay('closeDeals');
  if (deal.outcome !== 'open') throw new Problem('conflict', `This deal is ${String(deal.outcome)} already.`);
  unit.label ||= `${closing.outcome === 'won' ? 'Won' : 'Lost'}: “${String(deal.name)}”`;
  const closed = await unit.change('deal', deal.id, closing, { version, setter: 'feature' });
  if (closed.tryAgainOn) await unit.create('activity', tryAgain(closed), 'hand', ['owner', 'deal']);
  return closed;
}

function tryAgain(deal: AnyRecord): Values {
  const { id, owner, tryAgainOn } = deal;
  return {
    name: `Try again: ${String(deal.name)}`.slice(0, 200),
    kind: 'call',
    dueOn: tryAgainOn,
    owner,
    deal: id,
  };
}
