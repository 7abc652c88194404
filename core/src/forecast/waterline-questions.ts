import { allOf, type Condition, type Measure, type Question } from '../questions';
import { addDays, type Period } from '../time';

/** The questions behind a person's or team's period: each figure's own question opens the records it counts. */
export interface PeriodQuestions {
  won: Question;
  lost: Question;
  /** Open deals expected to close in the period. */
  open: Question;
  target: Question;
}

const figures: Measure[] = [{ as: 'count' }, { as: 'sum', of: 'value' }, { as: 'sum', of: 'weighted' }];

/** Dates within a half-open period; a condition's *between* includes both of its days. */
const within = (field: string, { from, to }: Period): Condition => ({
  field,
  is: 'between',
  value: [from, addDays(to, -1)],
});

const outcome = (key: string): Condition => ({ field: 'outcome', is: 'anyOf', value: [key] });

/**
 * What has to be asked to see how far someone has come in a period.
 * @param whose condition on the owner; undefined for everyone within reach.
 */
export function periodQuestions(whose: Condition | undefined, period: Period): PeriodQuestions {
  const deals = (key: string, date: string): Question => ({
    version: 1,
    object: 'deal',
    where: allOf(outcome(key), within(date, period), whose),
    measures: figures,
  });
  return {
    won: deals('won', 'closedOn'),
    lost: deals('lost', 'closedOn'),
    open: deals('open', 'closeOn'),
    target: {
      version: 1,
      object: 'target',
      where: allOf(within('startsOn', period), whose),
      measures: [{ as: 'sum', of: 'amount' }],
    },
  };
}
