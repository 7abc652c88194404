import { type ObjectKey } from '../catalogue';
import { kindsWithoutTouch } from '../catalogue/choice-lists';
import { ME, type Condition, type Question, type Related } from '../questions';
import { plainDesign, type Design } from './design';

/** A view that comes with Zawn: there on the first day, and anyone's to save a copy of. */
export interface ReadyMade {
  key: string;
  object: ObjectKey;
  name: string;
  design: Design;
}

const any = (field: string, ...value: (string | number)[]): Condition => ({ field, is: 'anyOf', value });
const none = (field: string, ...value: (string | number)[]): Condition => ({ field, is: 'noneOf', value });
const all = (...of: Condition[]): Condition => ({ join: 'all', of });
const open = any('outcome', 'open');
const mine = any('owner', ME);
const toWork = none('status', 'converted', 'disqualified');
const planned: Condition = { field: 'doneAt', is: 'isEmpty' };

/** Nothing of a relation that meets the condition. */
const no = (related: string, where?: Condition): Related => ({
  related,
  ...(where ? { where } : {}),
  is: 'is',
  value: 0,
});

/** Something of a relation that meets the condition. */
const some = (related: string, where: Condition): Related => ({ related, where, is: 'atLeast', value: 1 });

const lately = (days: number): Condition => ({
  field: 'doneAt',
  is: 'in',
  value: { direction: 'last', count: days, unit: 'day' },
});

/** Not touched for so many days, or never: no call, no meeting and no mail either way. */
const quiet = (days: number): Condition => ({
  join: 'none',
  of: [{ field: 'lastTouchAt', is: 'in', value: { direction: 'last', count: days, unit: 'day' } }],
});

/** A lead to be worked that nobody has touched: no call, no meeting and no mail either way. */
export const untouchedLead: Condition = all(
  toWork,
  no('activity.lead', all({ field: 'doneAt', is: 'isNotEmpty' }, none('kind', ...kindsWithoutTouch))),
  no('mail.lead'),
);

function made(
  key: string,
  object: ObjectKey,
  name: string,
  where?: Condition,
  more: Partial<Question> = {},
  how: Omit<Partial<Design>, 'question'> = {},
): ReadyMade {
  const plain = plainDesign(object, where);
  return { key, object, name, design: { ...plain, ...how, question: { ...plain.question, ...more } } };
}

const sumOfValue = { as: 'sum', of: 'value' } as const;
const count = { as: 'count' } as const;

/** The views everyone has, the first of each object being the one it opens with. */
export const readyMade: readonly ReadyMade[] = [
  made('to-work', 'lead', 'To work', toWork),
  made('my-leads', 'lead', 'Mine to work', all(toWork, mine)),
  made('call-down', 'lead', 'Call-down', all(toWork, mine, { field: 'phone', is: 'isNotEmpty' }), {
    // Whom one can reach now, the most promising first, and of equals those nobody has spoken to.
    sort: [
      { field: 'officeHours', descending: true },
      { field: 'score', descending: true },
      { field: 'status' },
      { field: 'createdAt' },
    ],
    columns: [
      'name',
      'organisation',
      'phone',
      'score',
      'officeHours',
      'country',
      'status',
      'questionsMet',
      'interest',
    ],
  }),
  made(
    'untouched',
    'lead',
    'Untouched for a week',
    all(untouchedLead, {
      field: 'createdAt',
      is: 'before',
      value: { days: -7 },
    }),
    { sort: [{ field: 'createdAt' }] },
  ),
  made('leads-adrift', 'lead', 'Adrift: no next step', all(toWork, no('activity.lead', planned))),
  made(
    'by-source',
    'lead',
    'By source this year',
    {
      field: 'createdAt',
      is: 'in',
      value: { unit: 'year', offset: 0 },
    },
    { groups: [{ field: 'source' }, { field: 'status' }], measures: [count] },
    { draw: 'pivot' },
  ),
  made('let-go', 'lead', 'Let go', any('status', 'disqualified')),
  made('all-leads', 'lead', 'All leads'),

  made('all-contacts', 'contact', 'All contacts'),
  made('my-contacts', 'contact', 'Mine', mine),
  made('quiet-contacts', 'contact', 'Customers gone quiet', all(any('relationship', 'customer'), quiet(60))),
  made(
    'big-deals',
    'contact',
    'With an open deal over 10,000',
    some(
      'deal.contact',
      all(open, {
        field: 'value',
        is: 'above',
        value: 1_000_000,
      }),
    ),
  ),

  made('all-accounts', 'account', 'All accounts'),
  made('my-accounts', 'account', 'Mine', mine),
  made('customers', 'account', 'Customers', any('relationship', 'customer')),
  made('quiet-accounts', 'account', 'Customers gone quiet', all(any('relationship', 'customer'), quiet(60))),
  made(
    'no-open-deal',
    'account',
    'Customers with no open deal',
    all(any('relationship', 'customer'), no('deal.account', open)),
  ),
  made(
    'by-country',
    'account',
    'By country and industry',
    undefined,
    {
      groups: [{ field: 'country' }, { field: 'industry' }],
      measures: [count],
    },
    { draw: 'pivot' },
  ),

  made('open-deals', 'deal', 'Open', open, {}, { draw: 'grid' }),
  made('my-deals', 'deal', 'Mine, open', all(open, mine)),
  made(
    'closing',
    'deal',
    'Closing this fiscal quarter',
    all(open, {
      field: 'closeOn',
      is: 'in',
      value: { unit: 'fiscalQuarter', offset: 0 },
    }),
    { groups: [{ field: 'closeOn', by: 'month' }], measures: [sumOfValue] },
  ),
  made('adrift', 'deal', 'Adrift: no next step', all(open, no('activity.deal', planned))),
  made(
    'overdue',
    'deal',
    'Past their close date',
    all(open, { field: 'closeOn', is: 'before', value: { days: 0 } }),
  ),
  made(
    'won-by-month',
    'deal',
    'Won this fiscal year by month',
    all(any('outcome', 'won'), {
      field: 'closedOn',
      is: 'in',
      value: { unit: 'fiscalYear', offset: 0 },
    }),
    { groups: [{ field: 'closedOn', by: 'month' }, { field: 'owner' }], measures: [sumOfValue] },
    { draw: 'columns' },
  ),
  made(
    'why-lost',
    'deal',
    'Why deals are lost',
    any('outcome', 'lost'),
    {
      groups: [{ field: 'lossReason' }],
      measures: [count, sumOfValue],
    },
    { draw: 'bars' },
  ),
  made(
    'stages-by-owner',
    'deal',
    'Open value by stage and owner',
    open,
    {
      groups: [{ field: 'stage' }, { field: 'owner' }],
      measures: [sumOfValue],
    },
    { draw: 'pivot', rounding: 'thousands' },
  ),
  made('all-deals', 'deal', 'All deals'),

  made('planned', 'activity', 'Planned', planned, { sort: [{ field: 'dueOn' }] }),
  made('my-planned', 'activity', 'Mine, planned', all(planned, mine), { sort: [{ field: 'dueOn' }] }),
  made('calls', 'activity', 'Calls', all(any('kind', 'call'), { field: 'doneAt', is: 'isNotEmpty' }), {
    columns: [
      'doneAt',
      'owner',
      'contact',
      'lead',
      'outcome',
      'minutes',
      'recording',
      'heardBy',
      'result',
      'direction',
      'number',
      'account',
    ],
    sort: [{ field: 'doneAt', descending: true }],
  }),
  made(
    'no-outcome',
    'activity',
    'Calls without an outcome',
    all(
      any('kind', 'call'),
      {
        field: 'doneAt',
        is: 'isNotEmpty',
      },
      { field: 'outcome', is: 'isEmpty' },
    ),
  ),
  made(
    'done-by-person',
    'activity',
    'Done in the last 30 days, by person',
    lately(30),
    {
      groups: [{ field: 'owner' }, { field: 'kind' }],
      measures: [count],
    },
    { draw: 'pivot' },
  ),
  made(
    'per-week',
    'activity',
    'Done per week',
    lately(90),
    {
      groups: [{ field: 'doneAt', by: 'week' }, { field: 'kind' }],
      measures: [count],
    },
    { draw: 'line' },
  ),
  made('all-activities', 'activity', 'All activities'),
];

/** The ready-made views of an object, the one it opens with first. */
export const readyMadeFor = (object: ObjectKey): readonly ReadyMade[] =>
  readyMade.filter((each) => each.object === object);
