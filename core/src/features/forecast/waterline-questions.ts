import {
  allOf,
  type Condition,
  type Measure,
  type Question,
  type RelativePeriod,
} from '../../kernel/questions';

/** The questions behind a person's or team's period: each figure's own question opens the records it counts. */
export interface PeriodQuestions {
  won: Question;
  lost: Question;
  /** Open deals expected to close in the period. */
  open: Question;
  target: Question;
  /** What teams and, without a team, the whole organisation are to win. */
  teamTarget: Question;
}

const figures: Measure[] = [{ as: 'count' }, { as: 'sum', of: 'value' }, { as: 'sum', of: 'weighted' }];

const within = (field: string, period: RelativePeriod): Condition => ({ field, is: 'in', value: period });

const outcome = (key: string): Condition => ({ field: 'outcome', is: 'anyOf', value: [key] });

/**
 * What has to be asked to see how far someone has come in a period.
 * @param whose condition on the owner; undefined for everyone within reach.
 */
export function periodQuestions(whose: Condition | undefined, period: RelativePeriod): PeriodQuestions {
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
      // What a team is to win is set beside what its people are, and not on top of it.
      where: allOf(within('startsOn', period), { field: 'owner', is: 'isNotEmpty' }, whose),
      measures: [{ as: 'sum', of: 'amount' }],
    },
    teamTarget: {
      version: 1,
      object: 'target',
      where: allOf(within('startsOn', period), { field: 'owner', is: 'isEmpty' }),
      groups: [{ field: 'team' }],
      measures: [{ as: 'sum', of: 'amount' }],
    },
  };
}
