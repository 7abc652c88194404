import { type ObjectKey } from '../../kernel/catalogue';
import { allOf, type Condition, type Question, type Related } from '../../kernel/questions';
import { DECIDES } from '../deals/decision';

/** The records that something can be missing of: what is missing is counted against all of them. */
export const upkeepBases = ['openDeals', 'lostDeals', 'openLeads', 'talks', 'contacts'] as const;
export type UpkeepBase = (typeof upkeepBases)[number];

/** Something that makes reports wrong, as a question that finds the records it is true of. */
export interface UpkeepKind {
  key: string;
  /** What is wrong, as it is read before a number: `Open deals without a next step`. */
  label: string;
  /** The same in a word or two, above a column. */
  short: string;
  of: UpkeepBase;
  where: Condition;
  /** The fields to be put right, shown beside the name. */
  fields: readonly string[];
}

const any = (field: string, ...value: string[]): Condition => ({ field, is: 'anyOf', value });
const empty = (field: string): Condition => ({ field, is: 'isEmpty' });
const older = (field: string, days: number): Condition => ({ field, is: 'before', value: { days: -days } });
const no = (related: string, where: Condition): Related => ({ related, where, is: 'is', value: 0 });

/** Days after which a new lead ought to have been touched, and an open one decided upon. */
const UNTOUCHED_DAYS = 3;
const OPEN_DAYS = 90;
/** Calls and meetings of so many days are looked at: what is older is not put right any more. */
const TALKS_DAYS = 90;

const bases: Record<UpkeepBase, { object: ObjectKey; where?: Condition }> = {
  openDeals: { object: 'deal', where: any('outcome', 'open') },
  lostDeals: { object: 'deal', where: any('outcome', 'lost') },
  openLeads: {
    object: 'lead',
    where: { field: 'status', is: 'noneOf', value: ['converted', 'disqualified'] },
  },
  talks: {
    object: 'activity',
    where: {
      join: 'all',
      of: [
        any('kind', 'call', 'meeting'),
        { field: 'doneAt', is: 'in', value: { direction: 'last', count: TALKS_DAYS, unit: 'day' } },
      ],
    },
  },
  contacts: { object: 'contact' },
};

/** What is looked after, in the order in which it is told. */
export const upkeepKinds: readonly UpkeepKind[] = [
  {
    key: 'adrift',
    label: 'Open deals without a next step',
    short: 'Adrift',
    of: 'openDeals',
    where: empty('nextStepOn'),
    fields: ['nextStepOn', 'stage', 'closeOn'],
  },
  {
    key: 'pastClose',
    label: 'Open deals past their close date',
    short: 'Past close',
    of: 'openDeals',
    where: { field: 'closeOn', is: 'before', value: { days: 0 } },
    fields: ['closeOn', 'stage', 'value'],
  },
  {
    key: 'stale',
    label: 'Open deals longer in their stage than usual',
    short: 'Stale',
    of: 'openDeals',
    where: { field: 'stale', is: 'is', value: true },
    fields: ['stage', 'daysInStage', 'nextStepOn'],
  },
  {
    key: 'noValue',
    label: 'Open deals without a value',
    short: 'No value',
    of: 'openDeals',
    where: { field: 'value', is: 'atMost', value: 0 },
    fields: ['value', 'currency', 'stage'],
  },
  {
    key: 'noAccount',
    label: 'Open deals without an account',
    short: 'No account',
    of: 'openDeals',
    where: empty('account'),
    fields: ['account', 'contact', 'value'],
  },
  {
    key: 'noContact',
    label: 'Open deals without a contact',
    short: 'No contact',
    of: 'openDeals',
    where: empty('contact'),
    fields: ['contact', 'account', 'value'],
  },
  {
    key: 'noDecider',
    label: 'Open deals with nobody named who decides',
    short: 'Nobody decides',
    of: 'openDeals',
    where: no('dealContact.deal', any('role', DECIDES)),
    fields: ['account', 'contact', 'stage'],
  },
  {
    key: 'dealsOfLeavers',
    label: 'Open deals of people who left',
    short: 'Deals of leavers',
    of: 'openDeals',
    where: { field: 'owner.active', is: 'is', value: false },
    fields: ['owner', 'stage', 'value'],
  },
  {
    key: 'noReason',
    label: 'Lost deals without a reason',
    short: 'Lost, no reason',
    of: 'lostDeals',
    where: empty('lossReason'),
    fields: ['lossReason', 'closedOn', 'value'],
  },
  {
    key: 'untouched',
    label: `Leads untouched for more than ${UNTOUCHED_DAYS} days`,
    short: 'Untouched',
    of: 'openLeads',
    where: allOf(empty('firstTouchAt'), older('createdAt', UNTOUCHED_DAYS)) as Condition,
    fields: ['status', 'createdAt', 'phone', 'email'],
  },
  {
    key: 'longOpen',
    label: `Leads open for more than ${OPEN_DAYS} days`,
    short: 'Long open',
    of: 'openLeads',
    where: older('createdAt', OPEN_DAYS),
    fields: ['status', 'createdAt', 'score'],
  },
  {
    key: 'leadsOfLeavers',
    label: 'Open leads of people who left',
    short: 'Leads of leavers',
    of: 'openLeads',
    where: { field: 'owner.active', is: 'is', value: false },
    fields: ['owner', 'status'],
  },
  {
    key: 'noOutcome',
    label: `Calls and meetings without an outcome, of ${TALKS_DAYS} days`,
    short: 'No outcome',
    of: 'talks',
    where: empty('outcome'),
    fields: ['outcome', 'doneAt'],
  },
  {
    key: 'unreachable',
    label: 'Contacts with no email and no number',
    short: 'Unreachable',
    of: 'contacts',
    where: allOf(empty('email'), empty('phone'), empty('mobile')) as Condition,
    fields: ['email', 'phone', 'account'],
  },
];

/** The question for the records that something is wrong with, or for all that it could be wrong with. */
export function upkeepQuestion(of: UpkeepBase, wrong?: Condition): Question {
  const { object, where } = bases[of];
  const asked = allOf(where, wrong);
  return { version: 1, object, ...(asked ? { where: asked } : {}) };
}
