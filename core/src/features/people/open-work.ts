import { ask, type Condition, type Question } from '../../kernel/questions';

const mine = (person: number): Condition => ({ field: 'owner', is: 'anyOf', value: [person] });

/**
 * What somebody leaves behind that others must go on with, a question for each kind: every contact and account of
 * theirs, leads and deals that are not closed, and what they had planned.
 */
export const openWorkOf = (person: number): Question[] => [
  ask(
    'lead',
    mine(person),
    { field: 'convertedAt', is: 'isEmpty' },
    { field: 'status', is: 'noneOf', value: ['disqualified'] },
  ),
  ask('contact', mine(person)),
  ask('account', mine(person)),
  ask('deal', mine(person), { field: 'outcome', is: 'anyOf', value: ['open'] }),
  ask('activity', mine(person), { field: 'doneAt', is: 'isEmpty' }),
];
