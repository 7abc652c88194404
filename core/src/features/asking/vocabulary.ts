import {
  fieldAt,
  fieldsOf,
  isObjectKey,
  objectType,
  type Catalogue,
  type Field,
  type ObjectKey,
} from '../../kernel/catalogue';
import { type Condition } from '../../kernel/questions';
import { countries } from '../../platform/normalise/country';
import { type Vocabulary } from './reading';
import { phraseOf, stemOf, wordsOf } from './words';

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
}

const any = (field: string, ...value: (string | number)[]): Condition => ({ field, is: 'anyOf', value });
const today = { days: 0 };
const notDone: Condition = { field: 'doneAt', is: 'isEmpty' };
const stale: Condition = { field: 'stale', is: 'is', value: true };

const objectWords: Record<string, ObjectWord> = {
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
  customer: { object: 'account', where: any('relationship', 'customer') },
  client: { object: 'account', where: any('relationship', 'customer') },
  prospect: { object: 'account', where: any('relationship', 'prospect') },
  partner: { object: 'account', where: any('relationship', 'partner') },
  supplier: { object: 'account', where: any('relationship', 'supplier') },
  'former customer': { object: 'account', where: any('relationship', 'former') },
  activity: { object: 'activity' },
  task: { object: 'activity', where: any('kind', 'task') },
  call: { object: 'activity', where: any('kind', 'call') },
  meeting: { object: 'activity', where: any('kind', 'meeting') },
  decision: { object: 'activity', where: any('kind', 'decision') },
  email: { object: 'mail' },
  mail: { object: 'mail' },
  note: { object: 'note' },
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

/** What is said of records in words of its own. */
const idioms: Partial<Record<ObjectKey, readonly (readonly [string, Idiom])[]>> = {
  deal: [
    ...made,
    ...changed,
    ...says('won|win|wins|sold', [any('outcome', 'won')], { date: 'closedOn' }),
    ...says('lost|lose|loses', [any('outcome', 'lost')], { date: 'closedOn' }),
    ...says('closed', [any('outcome', 'won', 'lost')], { date: 'closedOn', orPeriod: true }),
    ...says('closing|close|expected to close|due to close|expected|due', [], { date: 'closeOn' }),
    ...says('in the pipeline|in pipeline|in our pipeline', [any('outcome', 'open')]),
    ...says('overdue', [any('outcome', 'open'), { field: 'closeOn', is: 'before', value: today }]),
    ...says('stale|stuck|stuck in stage|stuck in their stage', [stale]),
    ...says('need attention|needs attention|needing attention|at risk', [
      { field: 'needsAttention', is: 'is', value: true },
    ]),
    ...says('pushed|slipped', [{ field: 'timesPushed', is: 'above', value: 0 }]),
    ...says('never pushed', [{ field: 'timesPushed', is: 'is', value: 0 }]),
    ...says('reopened', [{ field: 'timesReopened', is: 'above', value: 0 }]),
    ...says('with a decision maker|with a decider|with somebody who decides', [decided(true)]),
    ...says(
      'without a decision maker|with no decision maker|without decision maker|no decision maker|without a decider|no decider',
      [decided(false)],
    ),
  ],
  lead: [
    ...made,
    ...changed,
    ...says('come in|came in|received|got|get', [], { date: 'createdAt' }),
    ...neverTouched('firstTouchAt'),
    ...touched('firstTouchAt'),
    ...says('being worked|worked', [any('status', 'working')]),
    ...says('open', [{ field: 'status', is: 'noneOf', value: ['converted', 'disqualified'] }]),
    ...says('converted', [any('status', 'converted')], { date: 'convertedAt', orPeriod: true }),
    ...says('disqualified|let go', [any('status', 'disqualified')], {
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
    ...says('open|unfinished|planned|to do|not done', [notDone]),
    ...says('done|finished|completed|held|made|logged', [{ field: 'doneAt', is: 'isNotEmpty' }], {
      date: 'doneAt',
      orPeriod: true,
    }),
    ...says('overdue', [notDone, { field: 'dueOn', is: 'before', value: today }]),
    ...says('high priority|urgent', [any('priority', 'high')]),
    ...says('low priority', [any('priority', 'low')]),
  ],
  mail: [
    ...says('sent', [any('direction', 'out')], { date: 'sentAt' }),
    ...says('received', [any('direction', 'in')], { date: 'sentAt' }),
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

/** Whose records are. */
export const mainOwner = 'owner';

/** What fields are called beside their labels. */
const fieldWords: Partial<Record<ObjectKey, Record<string, string>>> = {
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
const ownerWords = 'owner rep person salesperson seller colleague who'.split(' ');
const linkedPaths: Record<string, readonly string[]> = {
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
const grammar = `${silent} a an the all any every each of in on at to for from by per and or but not no none neither nor never without with
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
  percent days times hours minutes step steps went go going back gone moved skipped skip own maker decider hold finish complete log call phone visit meet then q1 q2 q3 q4 ytd far end twice once three four five six ten twelve thousand million`;

type View = Vocabulary['views'][number];

/** The meanings of words in an organisation, looked up once for each object. */
export class Meanings {
  private readonly perObject = new Map<ObjectKey, ReadonlyMap<string, readonly ValueWord[]>>();
  private readonly fieldsPer = new Map<ObjectKey, ReadonlyMap<string, string>>();
  private readonly viewsPer = new Map<ObjectKey, ReadonlyMap<string, readonly View[]>>();
  private readonly idsPer = new Map<'people' | 'teams', ReadonlyMap<string, readonly number[]>>();
  private known: ReadonlySet<string> | undefined;

  constructor(readonly vocabulary: Vocabulary) {}

  get catalogue(): Catalogue {
    return this.vocabulary.catalogue;
  }

  object(phrase: string): ObjectWord | undefined {
    const found = Object.hasOwn(objectWords, phrase) ? objectWords[phrase] : undefined;
    if (!found) return undefined;
    if (this.vocabulary.rules.customers === 'won' && (phrase === 'customer' || phrase === 'client'))
      return {
        object: 'account',
        where: { related: 'deal.account', where: any('outcome', 'won'), is: 'atLeast', value: 1 },
      };
    return found;
  }

  idiom(object: ObjectKey, phrase: string): Idiom | undefined {
    return idioms[object]?.find(([said]) => said === phrase)?.[1];
  }

  /** What a phrase may say of an object's records, whole names before parts of names. */
  values(object: ObjectKey, phrase: string): readonly ValueWord[] {
    let known = this.perObject.get(object);
    if (!known) this.perObject.set(object, (known = this.valuesOf(object)));
    return known.get(phrase) ?? [];
  }

  /** What a view that is kept asks for, by its name. */
  view(object: ObjectKey, phrase: string): Condition | undefined {
    let known = this.viewsPer.get(object);
    if (!known) this.viewsPer.set(object, (known = this.viewsOf(object)));
    const found = known.get(phrase) ?? [];
    return found.length === 1 ? found[0].question.where : undefined;
  }

  /** The only person or team that a phrase means, as a whole name or as one word of it. */
  only(of: 'people' | 'teams', phrase: string): number | undefined {
    let known = this.idsPer.get(of);
    if (!known) this.idsPer.set(of, (known = idsByPhrase(this.vocabulary[of])));
    const found = known.get(phrase) ?? [];
    return found.length === 1 ? found[0] : undefined;
  }

  /** The path of the field that a phrase names. */
  field(object: ObjectKey, phrase: string): string | undefined {
    let known = this.fieldsPer.get(object);
    if (!known) this.fieldsPer.set(object, (known = this.fieldsOf(object)));
    return known.get(phrase);
  }

  /** Everything that has a name and can be said of an object’s records, as it is written. */
  names(object: ObjectKey): string[] {
    const { people, teams, pipelines, stages, lists, views } = this.vocabulary;
    const fields = fieldsOf(this.catalogue, object);
    return [
      ...Object.keys(objectWords).map((word) => plural(word)),
      ...fields.map(([, { label }]) => label.toLowerCase()),
      ...fields.flatMap(([, { choices = [] }]) => choices.map(({ label }) => label)),
      ...people.map(({ name }) => name),
      ...[...teams, ...pipelines, ...stages].map(({ name }) => name),
      ...[...lists, ...views].filter((each) => each.object === object).map(({ name }) => name),
      ...countries().map(({ name }) => name),
      ...[
        'this month',
        'this quarter',
        'this year',
        'last month',
        'last quarter',
        'last year',
        'compared with last year',
        'as columns',
        'as a line',
      ],
    ];
  }

  /** Every word that means something, by itself or within a name. */
  get words(): ReadonlySet<string> {
    if (this.known) return this.known;
    const words = new Set<string>();
    const { people, teams, pipelines, stages, lists, views } = this.vocabulary;
    for (const { name } of [people, teams, pipelines, stages, lists, views].flat())
      for (const { text, stem } of wordsOf(name)) words.add(text).add(stem);
    const add = (phrase: string) => {
      for (const word of phrase.split(' ')) words.add(word).add(plural(word));
    };
    for (const word of grammar.split(/\s+/)) words.add(word).add(stemOf(word));
    for (const phrase of Object.keys(objectWords)) add(phrase);
    for (const object of ['deal', 'lead', 'contact', 'account', 'activity', 'mail'] as const) {
      for (const [phrase] of idioms[object] ?? []) add(phrase);
      for (const phrase of this.fieldsPerObject(object).keys()) add(phrase);
      this.values(object, '');
      for (const phrase of this.perObject.get(object)?.keys() ?? []) add(phrase);
    }
    return (this.known = words);
  }

  private viewsOf(object: ObjectKey): ReadonlyMap<string, readonly View[]> {
    const views = new Map<string, View[]>();
    for (const view of this.vocabulary.views)
      if (view.object === object) {
        const phrase = phraseOf(view.name);
        views.set(phrase, [...(views.get(phrase) ?? []), view]);
      }
    return views;
  }

  private fieldsPerObject(object: ObjectKey): ReadonlyMap<string, string> {
    this.field(object, '');
    return this.fieldsPer.get(object) ?? new Map<string, string>();
  }

  private fieldsOf(object: ObjectKey): ReadonlyMap<string, string> {
    const { catalogue } = this;
    const paths = new Map<string, string>();
    const put = (phrase: string, path: string) => {
      if (!paths.has(phrase) && fieldAt(catalogue, object, path)) paths.set(phrase, path);
    };
    for (const [phrase, path] of Object.entries(fieldWords[object] ?? {})) put(phrase, path);
    for (const [key, field] of fieldsOf(catalogue, object)) put(phraseOf(field.label), key);
    for (const [key, label] of [
      ['createdAt', 'created'],
      ['updatedAt', 'changed'],
      ['createdBy', 'created by'],
    ])
      put(phraseOf(label), key);
    for (const [key, field] of fieldsOf(catalogue, object)) {
      if (key.toLowerCase() !== key) continue;
      put(phraseOf(key), key);
      if (!isObjectKey(field.to) || field.to === 'person') continue;
      for (const [inner, { label }] of fieldsOf(catalogue, field.to))
        put(phraseOf(`${field.label} ${label}`), `${key}.${inner}`);
    }
    for (const word of ownerWords) put(word, mainOwner);
    put('team', `${mainOwner}.team`);
    for (const [word, candidates] of Object.entries(linkedPaths))
      for (const path of candidates) put(word, path);
    if (object === 'activity') put('type', 'kind');
    return paths;
  }

  private valuesOf(object: ObjectKey): ReadonlyMap<string, readonly ValueWord[]> {
    const { vocabulary } = this;
    const found = new Map<string, ValueWord[]>();
    const put = (phrase: string, word: ValueWord) => {
      if (phrase === '') return;
      const all = found.get(phrase) ?? [];
      if (!all.some((each) => each.path === word.path && each.value === word.value))
        found.set(phrase, [...all, word]);
    };
    const choicesAt = (path: string, field: Field) => {
      for (const { key, label } of field.choices ?? []) {
        const phrase = phraseOf(label);
        put(phrase, { path, value: key });
        const [first] = phrase.split(' ');
        // “Contacts” are records, and no loss of one.
        if (first !== phrase && first.length > 4 && !Object.hasOwn(objectWords, first))
          put(first, { path, value: key, isPart: true });
        const asKey = phraseOf(key.replace(/([A-Z])/g, ' $1'));
        if (asKey !== phrase && asKey.length > 3 && !grammarWords.has(asKey))
          put(asKey, { path, value: key, isPart: true });
      }
    };
    for (const [key, field] of fieldsOf(this.catalogue, object)) {
      if (field.type === 'choice' || field.type === 'choices') choicesAt(key, field);
      if (field.to === 'stage')
        for (const { id, name } of vocabulary.stages) put(phraseOf(name), { path: key, value: id });
      if (field.to === 'pipeline')
        for (const { id, name } of vocabulary.pipelines) {
          put(phraseOf(name), { path: key, value: id });
          put(`${phraseOf(name)} pipeline`, { path: key, value: id });
        }
    }
    for (const path of ['account.industry', 'account.relationship']) {
      const field = fieldAt(this.catalogue, object, path);
      const own = fieldAt(this.catalogue, object, path.slice(8));
      if (field && !own && object !== 'account') choicesAt(path, field);
    }
    const country = ['country', 'account.country'].find((path) => fieldAt(this.catalogue, object, path));
    if (country) for (const [phrase, code] of countryPhrases()) put(phrase, { path: country, value: code });
    if (objectType(object).category === 'work')
      for (const list of vocabulary.lists)
        if (list.object === object) put(phraseOf(list.name), { path: 'lists', value: list.id });
    return found;
  }
}

/** Ids of people or teams by what they are called: their names, and each word of them that tells who is meant. */
function idsByPhrase(all: Vocabulary['people']): ReadonlyMap<string, readonly number[]> {
  const found = new Map<string, number[]>();
  for (const { id, name } of all) {
    const words = name.toLowerCase().split(/\s+/).map(stemOf);
    const telling = words.filter((word) => word.length > 2 && !isGrammar(word));
    for (const phrase of new Set([words.join(' '), ...telling]))
      found.set(phrase, [...(found.get(phrase) ?? []), id]);
  }
  return found;
}

let known: readonly (readonly [phrase: string, code: string])[] | undefined;

/** Every country by its name, put together once. */
const countryPhrases = () => (known ??= countries().map(({ code, name }) => [phraseOf(name), code] as const));

/** The plural of a word, roughly: for telling what is misspelt. */
const plural = (stem: string) => (stem.endsWith('y') ? `${stem.slice(0, -1)}ies` : `${stem}s`);

const silentWords = new Set(silent.split(/\s+/));
export const saysNothing = (word: string): boolean => silentWords.has(word);

const grammarWords = new Set(grammar.split(/\s+/));
export const isGrammar = (word: string): boolean => grammarWords.has(word);
