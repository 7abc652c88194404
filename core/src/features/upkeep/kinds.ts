import { type ObjectKey, type RecordOf } from '../../kernel/catalogue';
import { allOf, type Condition, type Question } from '../../kernel/questions';
import { OFTEN_PUSHED } from '../deals/objects';

/** The records that something can be missing of: what is missing is counted against all of them. */
export const upkeepBases = ['openDeals', 'lostDeals', 'openLeads', 'talks', 'contacts', 'accounts'] as const;
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

/** A kind that Zawn brings. Some have a limit, of days or times, which the organisation can change. */
interface ReadyKind extends Omit<UpkeepKind, 'label' | 'where'> {
  label: string | ((limit: number) => string);
  where: Condition | ((limit: number) => Condition);
  limit?: number;
}

const any = (field: string, ...value: string[]): Condition => ({ field, is: 'anyOf', value });
const empty = (field: string): Condition => ({ field, is: 'isEmpty' });
const older = (field: string, days: number): Condition => ({ field, is: 'before', value: { days: -days } });

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
  accounts: { object: 'account' },
};

/** What Zawn looks for, in the order in which it is told. */
const readyKinds: readonly ReadyKind[] = [
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
    key: 'oftenPushed',
    label: (times) =>
      `Open deals whose close date was put off ${times === 1 ? 'at all' : `${times} times or more`}`,
    short: 'Put off',
    of: 'openDeals',
    where: (times) => ({ field: 'timesPushed', is: 'atLeast', value: times }),
    limit: OFTEN_PUSHED,
    fields: ['closeOn', 'timesPushed', 'stage'],
  },
  {
    key: 'guideOverdue',
    label: 'Open deals longer in their stage than usual, with guide items open',
    short: 'Guide overdue',
    of: 'openDeals',
    where: {
      join: 'all',
      of: [
        { field: 'guideOpen', is: 'atLeast', value: 1 },
        { field: 'stale', is: 'is', value: true },
      ],
    },
    fields: ['guideOpen', 'guideDone', 'stage'],
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
    where: { field: 'deciderNamed', is: 'is', value: false },
    fields: ['deciderNamed', 'account', 'contact', 'stage'],
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
    label: (days) => `Leads untouched for more than ${days} ${days === 1 ? 'day' : 'days'}`,
    short: 'Untouched',
    of: 'openLeads',
    where: (days) => allOf(empty('firstTouchAt'), older('createdAt', days)) as Condition,
    limit: 3,
    fields: ['firstTouchAt', 'status', 'createdAt', 'phone', 'email'],
  },
  {
    key: 'longOpen',
    label: (days) => `Leads open for more than ${days} ${days === 1 ? 'day' : 'days'}`,
    short: 'Long open',
    of: 'openLeads',
    where: (days) => older('createdAt', days),
    limit: 90,
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
  {
    key: 'accountsOfLeavers',
    label: 'Accounts of people who left',
    short: 'Accounts of leavers',
    of: 'accounts',
    where: { field: 'owner.active', is: 'is', value: false },
    fields: ['owner', 'industry'],
  },
];

/** The keys of the kinds that Zawn brings, and those of them with a limit. */
export const readyUpkeepKeys: readonly string[] = readyKinds.map(({ key }) => key);

/** The limit of a kind as long as the organisation says nothing else; undefined where it has none. */
export const usualLimit = (key: string): number | undefined =>
  readyKinds.find((kind) => kind.key === key)?.limit;

/** What the organisation says about kinds. */
export type UpkeepCheck = Pick<
  RecordOf<'upkeepCheck'>,
  'id' | 'kind' | 'label' | 'question' | 'limit' | 'off'
>;

/** The records that a question of one's own is counted against. */
const baseOf: Partial<Record<ObjectKey, UpkeepBase>> = {
  deal: 'openDeals',
  lead: 'openLeads',
  activity: 'talks',
  contact: 'contacts',
  account: 'accounts',
};

/** The objects that a kind of one's own can ask about. */
export const upkeepObjects = Object.keys(baseOf) as ObjectKey[];

/** Fields shown beside a name. */
const SHOWN = 4;

/** A kind of the organisation's own; undefined where its question cannot be read. */
function ownKind({ id, label, question: text }: UpkeepCheck): UpkeepKind | undefined {
  try {
    const question = JSON.parse(text ?? '') as Question;
    const of = baseOf[question.object];
    if (!of || !question.where) return undefined;
    const name = label ?? '';
    const fields = (question.columns ?? []).filter((path) => path !== 'name').slice(0, SHOWN);
    return { key: `own${id}`, label: name, short: name, of, where: question.where, fields };
  } catch {
    return undefined;
  }
}

/** A kind as the organisation has it: whether it is looked for, and its limit. */
export interface UpkeepSetting {
  kind: UpkeepKind;
  /** What was said about it; undefined as long as nothing was. */
  check?: UpkeepCheck;
  limit?: number;
}

/** Every kind there is: what Zawn brings, with the limits of the organisation, then its own. */
export function upkeepSettings(checks: readonly UpkeepCheck[]): UpkeepSetting[] {
  const ready = readyKinds.map((each): UpkeepSetting => {
    const check = checks.find(({ kind }) => kind === each.key);
    const limit = each.limit === undefined ? undefined : (check?.limit ?? each.limit);
    const { label, where } = each;
    return {
      kind: {
        ...each,
        label: typeof label === 'string' ? label : label(limit ?? 0),
        where: typeof where === 'function' ? where(limit ?? 0) : where,
      },
      ...(check ? { check } : {}),
      ...(limit === undefined ? {} : { limit }),
    };
  });
  const own = checks.flatMap((check): UpkeepSetting[] => {
    const kind = check.kind === null ? ownKind(check) : undefined;
    return kind ? [{ kind, check }] : [];
  });
  return [...ready, ...own];
}

/** What is looked for: every kind that is not switched off. */
export const upkeepKindsOf = (checks: readonly UpkeepCheck[]): UpkeepKind[] =>
  upkeepSettings(checks)
    .filter(({ check }) => check?.off !== true)
    .map(({ kind }) => kind);

/** The question for the records that something is wrong with, or for all that it could be wrong with. */
export function upkeepQuestion(of: UpkeepBase, wrong?: Condition): Question {
  const { object, where } = bases[of];
  const asked = allOf(where, wrong);
  return { version: 1, object, ...(asked ? { where: asked } : {}) };
}
