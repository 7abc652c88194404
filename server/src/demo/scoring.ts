import { addDays, questionsMet, type Condition, type Day } from '@zawn/core';
import { type Book } from './book';

const any = (field: string, ...value: string[]): Condition => ({ field, is: 'anyOf', value });

const rules: [name: string, points: number, condition: Condition][] = [
  ['Wants it within a quarter', 20, any('timeFrame', 'month', 'quarter')],
  ['Budget over 20,000', 15, { field: 'budget', is: 'above', value: 2_000_000 }],
  ['Came by referral or tender', 15, any('source', 'referral', 'tender')],
  ['Has a phone number', 5, { field: 'phone', is: 'isNotEmpty' }],
  ['Two questions met', 20, { field: 'questionsMet', is: 'atLeast', value: 2 }],
  [
    'Spoke to us within two weeks',
    10,
    {
      related: 'activity.lead',
      is: 'atLeast',
      value: 1,
      where: { field: 'doneAt', is: 'in', value: { direction: 'last', count: 14, unit: 'day' } },
    },
  ],
  ['Older than three months', -15, { field: 'createdAt', is: 'before', value: { days: -90 } }],
  [
    'No email and no phone',
    -20,
    {
      join: 'all',
      of: [
        { field: 'phone', is: 'isEmpty' },
        { field: 'email', is: 'isEmpty' },
      ],
    },
  ],
];

/** The rules by which Brackwater tells which leads to call first. */
export function writeScoreRules(book: Book, today: Day): void {
  const founding = { at: `${addDays(today, -300)}T08:00:00.000Z`, person: null };
  for (const [name, points, condition] of rules)
    book.create('scoreRule', founding, { name, points, condition: JSON.stringify(condition), active: true });
}

const answers = ['met', 'met', 'notMet', null] as const;
const notes = [
  'Asked for in next year’s plan',
  'The harbour master has the last word',
  'Lost a week of data in the last storm',
  'Before the ice comes',
];

/** What has been found out about a lead by now; the same for the same lead. */
export function findings(id: number): Record<string, string | number | null> {
  const answer = (shift: number) => answers[(id + shift * 3) % answers.length];
  const met = {
    budgetMet: answer(0),
    authorityMet: answer(1),
    needMet: answer(2),
    timingMet: answer(3),
  };
  return { ...met, needNote: notes[id % notes.length], questionsMet: questionsMet(met) };
}

const reasons = ['noNeed', 'noBudget', 'unreachable', 'notOurs', 'noNeed', 'duplicate'];

/** Why a lead was let go; the same for the same lead. */
export const reasonFor = (id: number) => reasons[id % reasons.length];
