import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, OFTEN_PUSHED, type AnyRecord, type Condition, type Test } from '@zawn/core';
import { Link } from 'react-router';
import { fewRecords, figures } from '../../platform/api/queries';
import { number, shortMoney } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { RecordLinks } from '../../kernel/records/record-links';
import { useSession } from '../../platform/sessions/session';
import { useAttention } from './use-attention';

const OPEN: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
/** Deals that are named, the largest. */
const NAMED = 4;

/** What is looked for in open deals, in the order in which it is pressing. */
const concerns: readonly { words: string; where: Test }[] = [
  { words: 'past their close date', where: { field: 'closeOn', is: 'before', value: { days: 0 } } },
  { words: 'adrift, with no next step', where: { field: 'nextStepOn', is: 'isEmpty' } },
  { words: 'longer in their stage than usual', where: { field: 'stale', is: 'is', value: true } },
  {
    words: `put off ${OFTEN_PUSHED} times or more`,
    where: { field: 'timesPushed', is: 'atLeast', value: OFTEN_PUSHED },
  },
  { words: 'with nobody named who decides', where: { field: 'deciderNamed', is: 'is', value: false } },
];

/** How many open deals need a look, by what for, and the largest of them with what it is. */
export function DealsToLookAt({ whose }: { whose: Condition | undefined }) {
  const { policy, catalogue } = useSession();
  const attention = useAttention();
  // Without a field that is not seen a condition would be one of all open deals.
  const seen = concerns.filter(({ where }) => fieldOf(catalogue, 'deal', where.field));
  const asked = seen.map(({ where }) => ({
    ...ask('deal', OPEN, where, whose),
    sort: [{ field: 'value', descending: true }],
  }));
  const pressing = {
    ...ask('deal', { field: 'needsAttention', is: 'is', value: true }, whose),
    sort: [{ field: 'value', descending: true }],
  };
  const isSeen = policy.allows('deal', 'see');
  const { data: counts } = useQuery({ ...figures(asked), enabled: isSeen });
  const { data } = useQuery({ ...fewRecords(pressing, NAMED), enabled: isSeen });
  const found = seen
    .map(({ words }, index) => ({
      words,
      question: asked[index],
      count: counts?.[index][0]?.figures[0] ?? 0,
    }))
    .filter(({ count }) => count > 0);
  if (found.length === 0) return null;
  const wordsOf = (deal: AnyRecord) =>
    attention(deal)
      .filter(({ isPressing }) => isPressing)
      .map(({ words }) => words)
      .join(' · ');
  return (
    <section className="concern" aria-label="Deals to look at">
      <h3>Deals to look at</h3>
      <ul className="concern-counts">
        {found.map(({ words, question, count }) => (
          <li key={words}>
            <Link to={listAddress('deals', question)}>{number(count)}</Link> {words}
          </li>
        ))}
      </ul>
      <RecordLinks
        object="deal"
        records={data?.rows ?? []}
        detail={(deal) => shortMoney(Number(deal.value), String(deal.currency))}
        under={(deal) => <span className="attention">{wordsOf(deal)}</span>}
      />
    </section>
  );
}
