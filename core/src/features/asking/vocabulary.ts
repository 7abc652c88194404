import { type ObjectKey } from '../../kernel/catalogue';
import { type Condition, type Related } from '../../kernel/questions';
import { phraseOf } from './words';

/** What a phrase names: a kind of record, and what else holds of those that are called so. */
export interface ObjectWord {
  object: ObjectKey;
  where?: Condition;
}

/** What a phrase says of a record: a value of one of its fields. */
export interface ValueWord {
  path: string;
  value: string | number;
  /** Only a part of its name was said. */
  isPart?: true;
}

/** What a phrase says as a whole. */
export interface Idiom {
  conditions: readonly Condition[];
  /** The date that a period behind it is about. With one, it says that alone where `orPeriod` is set. */
  date?: string;
  orPeriod?: true;
  /** What the log says of it: with a period behind it, that is asked of the changes made then. */
  logged?: readonly Condition[];
}

export const isOneOf = (field: string, ...value: (string | number)[]): Condition => ({
  field,
  is: 'anyOf',
  value,
});
/** Records of which so many changes are logged that meet all of these; one, where it is not said how many. */
export const withChanges = (
  object: ObjectKey,
  of: readonly Condition[],
  often: Pick<Related, 'is' | 'value'> = { is: 'atLeast', value: 1 },
): Condition => ({
  related: `loggedChange.${object}`,
  where: of.length === 1 ? of[0] : { join: 'all', of: [...of] },
  ...often,
});
const today = { days: 0 };
const notDone: Condition = { field: 'doneAt', is: 'isEmpty' };
const stale: Condition = { field: 'stale', is: 'is', value: true };

export const objectWords: Record<string, ObjectWord> = {
  deal: { object: 'deal' },
  opportunity: { object: 'deal' },
  opp: { object: 'deal' },
  lead: { object: 'lead' },
  enquiry: { object: 'lead' },
  inquiry: { object: 'lead' },
  contact: { object: 'contact' },
  person: { object: 'contact' },
  account: { object: 'account' },
  company: { object: 'account' },
  organisation: { object: 'account' },
  customer: { object: 'account', where: isOneOf('relationship', 'customer') },
  client: { object: 'account', where: isOneOf('relationship', 'customer') },
  prospect: { object: 'account', where: isOneOf('relationship', 'prospect') },
  partner: { object: 'account', where: isOneOf('relationship', 'partner') },
  supplier: { object: 'account', where: isOneOf('relationship', 'supplier') },
  'former customer': { object: 'account', where: isOneOf('relationship', 'former') },
  activity: { object: 'activity' },
  task: { object: 'activity', where: isOneOf('kind', 'task') },
  call: { object: 'activity', where: isOneOf('kind', 'call') },
  meeting: { object: 'activity', where: isOneOf('kind', 'meeting') },
  decision: { object: 'activity', where: isOneOf('kind', 'decision') },
  email: { object: 'mail' },
  mail: { object: 'mail' },
  note: { object: 'note' },
  'deal line': { object: 'dealLine' },
  'product line': { object: 'dealLine' },
};

const says = (phrases: string, conditions: readonly Condition[], more: Omit<Idiom, 'conditions'> = {}) =>
  phrases.split('|').map((phrase): [string, Idiom] => [phraseOf(phrase), { conditions, ...more }]);

const made = says('created|added|new|made', [], { date: 'createdAt' });
const changed = says('updated|changed|modified|last updated|last changed', [], { date: 'updatedAt' });

const decided = (value: boolean): Condition => ({ field: 'deciderNamed', is: 'is', value });

/** That somebody was in touch, ever or in a period. */
const touched = (field: string) =>
  says('touched|contacted|in touch', [{ field, is: 'isNotEmpty' }], { date: field, orPeriod: true });

const neverTouched = (field: string) =>
  says('never contacted|never touched|never been contacted|never been touched', [{ field, is: 'isEmpty' }]);

/** A close date that was moved to later. */
const pushed = [isOneOf('field', 'closeOn'), isOneOf('went', 'later')];

/** That nobody has it. */
const ownerless = says('not assigned|nobody owns|no one owns|owned by nobody|owned by no one', [
  { field: 'owner', is: 'isEmpty' },
]);

/** What is said of records in words of its own. */
export const idioms: Partial<Record<ObjectKey, readonly (readonly [string, Idiom])[]>> = {
  deal: [
    ...made,
    ...ownerless,
    ...changed,
    ...says('won|win|wins|sold', [isOneOf('outcome', 'won')], { date: 'closedOn' }),
    ...says('lost|lose|loses', [isOneOf('outcome', 'lost')], { date: 'closedOn' }),
    ...says('closed', [isOneOf('outcome', 'won', 'lost')], { date: 'closedOn', orPeriod: true }),
    ...says('closing|close|expected to close|due to close|expected|due', [], { date: 'closeOn' }),
    ...says('in the pipeline|in pipeline|in our pipeline', [isOneOf('outcome', 'open')]),
    ...says('overdue', [isOneOf('outcome', 'open'), { field: 'closeOn', is: 'before', value: today }]),
    ...says('stale|stuck|stuck in stage|stuck in their stage', [stale]),
    ...says('need attention|needs attention|needing attention|at risk', [
      { field: 'needsAttention', is: 'is', value: true },
    ]),
    ...says('pushed|slipped', [{ field: 'timesPushed', is: 'above', value: 0 }], { logged: pushed }),
    ...says('never pushed', [{ field: 'timesPushed', is: 'is', value: 0 }], { logged: pushed }),
    ...says('reopened', [{ field: 'timesReopened', is: 'above', value: 0 }], {
      logged: [isOneOf('field', 'timesReopened'), isOneOf('went', 'begun', 'more')],
    }),
    ...says('with a decision maker|with a decider|with somebody who decides', [decided(true)]),
    ...says(
      'without a decision maker|with no decision maker|without decision maker|no decision maker|without a decider|no decider',
      [decided(false)],
    ),
  ],
  lead: [
    ...made,
    ...ownerless,
    ...changed,
    ...says('come in|came in|received|got|get', [], { date: 'createdAt' }),
    ...neverTouched('firstTouchAt'),
    ...touched('firstTouchAt'),
    ...says('being worked|worked', [isOneOf('status', 'working')]),
    ...says('open', [{ field: 'status', is: 'noneOf', value: ['converted', 'disqualified'] }]),
    ...says('converted', [isOneOf('status', 'converted')], { date: 'convertedAt', orPeriod: true }),
    ...says('disqualified|unqualified|let go', [isOneOf('status', 'disqualified')], {
      date: 'disqualifiedAt',
      orPeriod: true,
    }),
  ],
  contact: [...made, ...changed, ...neverTouched('lastTouchAt'), ...touched('lastTouchAt')],
  account: [...made, ...changed, ...neverTouched('lastTouchAt'), ...touched('lastTouchAt')],
  activity: [
    ...says('created|added', [], { date: 'createdAt' }),
    ...changed,
    ...says('due|planned for', [], { date: 'dueOn' }),
    ...says(
      'open|unfinished|planned|to do|not done|nobody finished|nobody has finished|nobody did|nobody has done|nobody completed|nobody has completed|no one finished|no one did',
      [notDone],
    ),
    ...says('done|finished|completed|held|made|logged', [{ field: 'doneAt', is: 'isNotEmpty' }], {
      date: 'doneAt',
      orPeriod: true,
    }),
    ...says('overdue', [notDone, { field: 'dueOn', is: 'before', value: today }]),
    ...says('high priority|urgent', [isOneOf('priority', 'high')]),
    ...says('low priority', [isOneOf('priority', 'low')]),
  ],
  mail: [
    ...says('sent', [isOneOf('direction', 'out')], { date: 'sentAt' }),
    ...says('received', [isOneOf('direction', 'in')], { date: 'sentAt' }),
  ],
};

/** The date that is meant of an object's records where none is named. */
const mainDates: Partial<Record<ObjectKey, string>> = {
  deal: 'closeOn',
  mail: 'sentAt',
  dealLine: 'deal.closedOn',
};
export const mainDate = (object: ObjectKey): string => mainDates[object] ?? 'createdAt';

/** The amount that is meant where none is named. */
export const mainAmount: Partial<Record<ObjectKey, string>> = {
  deal: 'value',
  lead: 'budget',
  dealLine: 'sum',
};

/**
 * The rate at which records come to what they are for: how it is called, first its own name, and the date that times are
 * about where it is asked for.
 */
export const rates: Partial<Record<ObjectKey, { words: readonly string[]; date?: string }>> = {
  deal: { words: ['win rate', 'success rate', 'closing rate', 'share won'], date: 'closedOn' },
  lead: { words: ['conversion rate', 'rate of conversion', 'share converted'] },
};

/** Whose records are. */
export const mainOwner = 'owner';

/** What fields are called beside their labels. */
export const fieldWords: Partial<Record<ObjectKey, Record<string, string>>> = {
  deal: {
    'deal size': 'value',
    'deal value': 'value',
    'deal worth': 'value',
    size: 'value',
    amount: 'value',
    worth: 'value',
    'weighted pipeline': 'weighted',
    reason: 'lossReason',
    'loss reason': 'lossReason',
    probability: 'probability',
    chance: 'probability',
    'time pushed': 'timesPushed',
    'day in stage': 'daysInStage',
    'expected close': 'closeOn',
    closing: 'closeOn',
  },
  lead: {
    'phone number': 'phone',
    'email address': 'email',
    scoring: 'score',
    worth: 'budget',
    value: 'budget',
    amount: 'budget',
    reason: 'disqualifyReason',
  },
  contact: { 'phone number': 'phone', 'email address': 'email', 'mail address': 'email' },
  account: { 'phone number': 'phone', web: 'domain' },
  activity: { completion: 'doneAt', 'due date': 'dueOn', kind: 'kind', person: 'owner' },
};
export const ownerWords = 'owner rep person salesperson seller colleague who'.split(' ');
export const linkedPaths: Record<string, readonly string[]> = {
  country: ['country', 'account.country'],
  industry: ['industry', 'account.industry'],
  town: ['city', 'account.city'],
  city: ['city', 'account.city'],
  region: ['country', 'account.country'],
};

/** Words that say nothing of what is asked. */
const silent = `a an the all any every each of that which who whose are is were was be been have has had do did does we our us you me
   show list find give please can what get got it they their its how in on at to for with and there see want tell look
   which's where worth being them make came nobody yet already currently still now just everyone everybody anyone`;

/** All words that say how a question is put, so that they are not taken for misspelt others. */
export const grammar = `${silent} a an the all any every each of in on at to for from by per and or but not no none neither nor never without with
  where that which who whose is are was were be been have has had do did does i we me my mine our us you your their its it
  over above more than under below less least most up between exactly about after before since until this last past next
  previous current coming today yesterday tomorrow day week month quarter year fiscal financial calendar date ago
  show list find give chart graph table column bar line pivot order sorted ordered sort by top first biggest largest highest
  smallest lowest newest latest oldest average mean median total sum number count how many much value compared against
  versus stood end so far called named containing contain start starting tagged tag missing lacking having outside except
  please can what as it they owned assigned belonging given working older younger longer larger bigger greater higher
  smaller lower fewer exactly outside except excluding neither other than them being there want tell look drawn shown make came nobody rate yet already currently still now just everyone everybody anyone been monday tuesday wednesday thursday friday saturday sunday
  january february march april june july august september october november december pipeline weighted touched
  grouped split broken each alphabetically alphabetical ascending descending beginning ending stood vs because due through
  through expected revenue turnover sales pipeline won lost win lose valued worth held unassigned quiet contacted touched
  percent days times hours minutes step steps went go going back gone moved skipped skip own maker decider hold finish complete log call phone visit meet then q1 q2 q3 q4 ytd far end twice once three four five six ten twelve thousand million
  around about roughly approximately approx circa conversion cycle
  weekend area pie doughnut donut funnel heatmap share percentage file attachment time`;

const silentWords = new Set(silent.split(/\s+/));
export const saysNothing = (word: string): boolean => silentWords.has(word);

const grammarWords = new Set(grammar.split(/\s+/));
export const isGrammar = (word: string): boolean => grammarWords.has(word);
