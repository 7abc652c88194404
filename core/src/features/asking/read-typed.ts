import { type ObjectKey } from '../../kernel/catalogue';
import { type FirstGroups, type Grouping, type Question } from '../../kernel/questions';
import { readPrinted } from './read-printed';
import { allTogether } from './joining';
import { comparable } from './compared-words';
import { readStep } from './read-step';
import { Reader } from './reader';
import { rewritten, type Rewritten } from './rewritten';
import {
  type Asked,
  type NoQuestion,
  type Reading,
  type Respelt,
  type Span,
  type Vocabulary,
} from './reading';
import { Meanings } from './meanings';
import { isGrammar, mainAmount, type ObjectWord } from './vocabulary';
import { isCapital, LONGEST_TYPED, nearestWord, stemOf, wordsOf, type Word } from './words';

/** What cannot be answered from records, by the words that ask for it. */
const noQuestions: readonly (readonly [RegExp, string])[] = [
  [
    /\b(near(?:by|est)?|within \d+ ?(?:km|kilometres?|miles?)|distance|how far|close to me|around me)\b/iu,
    'How far something is away is not on file. Ask by country or town instead.',
  ],
  [
    /\b(will|likely to|going to|predict\w*|forecast\w* for|chance that|expect us to)\b/iu,
    'What will happen is not on file. Ask what is expected: by close date, or by weighted value.',
  ],
  [
    /\b(why (?:do|did|are|is|does|should)|should (?:i|we)|what if|how (?:can|do|should) (?:i|we)|advise|recommend\w*)\b/iu,
    'This asks for advice, which is not on file. Ask which records, how many, or how much.',
  ],
];

/** Words behind which a text stands that is nobody's to spell. */
const beforeTexts = new Set([
  'named',
  'called',
  'containing',
  'contains',
  'contain',
  'tagged',
  'tag',
  'with',
  'role',
  'town',
  'city',
  'starting',
  'beginning',
  'ending',
  'list',
]);

/** The words with those that are misspelt put right, and what was put right. */
function spelt(
  text: string,
  words: readonly Word[],
  meanings: Meanings,
): { words: Word[]; respelt: Respelt[] } {
  const respelt: Respelt[] = [];
  const isText = (index: number) => {
    const [before, two] = [words[index - 1]?.text, words[index - 2]?.text];
    return (
      before !== undefined &&
      (before !== 'with' || two === 'starting' || two === 'tagged' || two === 'beginning') &&
      beforeTexts.has(before)
    );
  };
  const right = words.map((word, index) => {
    const isKnown = meanings.words.has(word.text) || meanings.words.has(word.stem);
    if (isKnown || word.quoted !== undefined || word.number !== undefined || word.digits || isText(index))
      return word;
    const as = nearestWord(word.text, meanings.words);
    // A name is no verb that was misspelt: Anna Holt.
    const isName = index > 0 && isCapital(text, word);
    if (as === undefined || (isName && isGrammar(as))) return word;
    respelt.push({ from: word.from, to: word.to, as });
    return { ...word, text: as, stem: stemOf(as) };
  });
  return { words: right, respelt };
}

/** “This or next month” as “this month or next month”: both are of the unit behind them. */
function unitsShared(words: readonly Word[]): Word[] {
  const isTurn = (word: Word | undefined) => ['this', 'last', 'next', 'current'].includes(word?.text ?? '');
  return words.flatMap((word, at) => {
    const [joint, turn, unit] = words.slice(at + 1, at + 4);
    const isShared = isTurn(word) && isTurn(turn) && ['or', 'and'].includes(joint.text);
    return isShared && unit && UNITS.includes(unit.stem)
      ? [word, { ...unit, from: word.from, to: word.to }]
      : [word];
  });
}

const UNITS = ['week', 'month', 'quarter', 'year'];

interface Noun extends ObjectWord {
  at: number;
  length: number;
}

/** The word that says which records are asked for: the first that does not stand behind *with*. */
function nounIn(words: readonly Word[], meanings: Meanings): Noun | undefined {
  const isBehind = (index: number) => {
    const before = words.slice(Math.max(0, index - 5), index).map(({ text }) => text);
    const at = Math.max(
      ...['with', 'without', 'no', 'whose', 'by', 'per', 'missing', 'each', 'have', 'has'].map((word) =>
        before.lastIndexOf(word),
      ),
    );
    // “Do I have overdue tasks” asks for the tasks.
    const isOwned = before[at] === 'have' && ['i', 'we', 'you'].includes(before[at - 1]);
    return at >= 0 && !isOwned && !before.slice(at).some((word) => word === 'of');
  };
  for (const [index, word] of words.entries()) {
    if (word.quoted !== undefined || isBehind(index)) continue;
    for (const length of [2, 1]) {
      const found = meanings.object(
        words
          .slice(index, index + length)
          .map(({ stem }) => stem)
          .join(' '),
      );
      const isWhole = index + length <= words.length;
      // “Calls” are a kind of activity; a partner pipeline is none.
      if (!found || !isWhole) continue;
      // Of two nouns in a row the last is what is asked for: partner leads are leads.
      const next = words.at(index + length);
      const head = next && !isBehind(index + length) ? meanings.object(next.stem) : undefined;
      return head && head.object !== found.object
        ? { ...head, at: index + length, length: 1 }
        : { ...found, at: index, length };
    }
  }
  return undefined;
}

/** Words that speak of deals without naming them. */
const ofDeals =
  /\b(pipeline|revenue|turnover|won|lost|win|sold|closed|closing|pushed|slipped|reopened|sales|value|working on|weighted|stages?|close (?:date|month)|(?:days|time) to (?:close|win))\b/iu;

/** Words that speak of leads without naming them. */
const ofLeads = /\bconversion rate\b/iu;

/** Whether a pipeline or a stage is named, which only deals go through: renewals closing this quarter. */
function namesDeals(words: readonly Word[], meanings: Meanings): boolean {
  return words.some((_, at) =>
    [3, 2, 1].some((length) => {
      const phrase = words
        .slice(at, at + length)
        .map(({ stem }) => stem)
        .join(' ');
      return meanings
        .values('deal', phrase)
        .some(({ path, isPart }) => !isPart && (path === 'pipeline' || path === 'stage'));
    }),
  );
}

/** What was put in another way, in words that are read one after the other, where it is meant so. */
function putOtherwise(typed: string, meanings: Meanings): Rewritten | undefined {
  const other = rewritten(typed);
  if (!other?.needsNoun) return other;
  const words = wordsOf(other.text);
  return nounIn(words, meanings) || namesDeals(words, meanings) ? other : undefined;
}

/** How printed questions begin: `Deals where`, `All deals`. */
const PRINTED = /^(?:All [a-z]|[A-Z][a-z ]+ where )/;

/** Reads what somebody typed as a question. What is not understood is told, and never guessed at. */
export function readTyped(
  typed: string,
  vocabulary: Vocabulary,
  meanings = new Meanings(vocabulary),
): Reading {
  const nothing = { unread: [], respelt: [], doubtful: [] };
  // What questions are printed as says exactly one thing.
  const exact = PRINTED.test(typed) ? readPrinted(typed, vocabulary) : undefined;
  if (exact) return { ...nothing, asked: exact };
  if (typed.length > LONGEST_TYPED)
    return {
      ...nothing,
      noQuestion: {
        from: 0,
        to: typed.length,
        why: `This is longer than a question: at most ${LONGEST_TYPED} letters are read.`,
      },
    };
  const no = noQuestionIn(typed, vocabulary);
  if (no) return { ...nothing, noQuestion: no };
  const whole = /^\s*["“](.*)["”]\s*$/u.exec(typed);
  // What stands between quotation marks as a whole is what is asked.
  if (whole && !/["“”]/u.test(whole[1])) return readTyped(` ${whole[1]} `, vocabulary, meanings);
  const other = putOtherwise(typed, meanings);
  const text = other?.text ?? typed;
  const { words: typedWords, respelt } = spelt(text, wordsOf(text), meanings);
  const words = unitsShared(typedWords);
  const ofDealsAlone: Noun | undefined = other && { object: 'deal', at: -1, length: 0 };
  const named = other?.isOfDeals ? undefined : nounIn(words, meanings);
  const noun = named ?? ofDealsAlone;
  const isLeads = noun === undefined && ofLeads.test(text);
  const isKnown = noun !== undefined || isLeads || ofDeals.test(text) || namesDeals(words, meanings);
  if (!isKnown) {
    const first = words.at(0);
    const unread = first ? [{ from: first.from, to: words[words.length - 1].to }] : [];
    return { ...nothing, unread, respelt: [] };
  }
  const object: ObjectKey = noun?.object ?? (isLeads ? 'lead' : 'deal');
  const reader = new Reader(words, meanings, object, text);
  if (noun?.where) reader.addNoun(noun.where);
  if (!noun && /\bworking on\b/iu.test(text))
    reader.addNoun({ field: 'outcome', is: 'anyOf', value: ['open'] });
  for (let at = 0; at < words.length;) {
    if (noun && at === noun.at) {
      reader.passNoun();
      at += noun.length;
      continue;
    }
    const length = readStep(reader, at);
    if (length === 0) reader.fail(at);
    at += Math.max(1, length);
  }
  reader.settle();
  const asked = askedFrom(reader, other?.first);
  // What was put otherwise to be read is told as a whole.
  const all: Span = { from: 0, to: typed.length };
  const isDoubtful = other !== undefined && (reader.unread.length > 0 || respelt.length > 0);
  return {
    asked,
    unread: other ? (isDoubtful ? [all] : []) : inOrder(reader.unread),
    respelt: other ? [] : respelt,
    doubtful: other
      ? reader.doubtful.flatMap((each) =>
          each.others.every(({ rules }) => rules) ? [{ ...each, ...all }] : [],
        )
      : [...doubtOfNoun(words, noun, vocabulary), ...reader.doubtful],
  };
}

/** Places in the order of the text, those that meet as one. */
function inOrder(spans: readonly Span[]): Span[] {
  const sorted = [...spans].sort((a, b) => a.from - b.from);
  const joined: Span[] = [];
  for (const span of sorted) {
    const last = joined.at(-1);
    if (last && span.from <= last.to + 1) last.to = Math.max(last.to, span.to);
    else joined.push({ ...span });
  }
  return joined;
}

/** Customers are those that are called so, or those that something was won from. */
function doubtOfNoun(
  words: readonly Word[],
  noun: Noun | undefined,
  { rules }: Vocabulary,
): Reading['doubtful'] {
  const word = noun && noun.at >= 0 ? words[noun.at] : undefined;
  if (!word || noun?.length !== 1 || (word.stem !== 'customer' && word.stem !== 'client')) return [];
  const [called, won] = ['accounts whose relationship is Customer', 'accounts with a won deal'];
  const isCalled = rules.customers === 'called';
  return [
    {
      from: word.from,
      to: word.to,
      as: isCalled ? called : won,
      others: [{ as: isCalled ? won : called, rules: { customers: isCalled ? 'won' : 'called' } }],
    },
  ];
}

/** The groups, those of a date that was not said by the one that the records are asked of: `calls per week this month`. */
function groupsFrom({ rest: { groups }, assumed, conditions }: Reader): Grouping[] {
  const fields = conditions.flatMap((each) => ('field' in each ? [each.field] : []));
  if (!fields.includes('dueOn') || fields.includes('doneAt')) return groups;
  return groups.map((group) =>
    assumed.has(group) ? { ...group, field: group.field.replace('doneAt', 'dueOn') } : group,
  );
}

function askedFrom(reader: Reader, top: Rewritten['first']): Asked {
  const { object, rest } = reader;
  const compared = rest.compared && comparable(reader);
  if (rest.comparedAt && !compared) reader.unread.push(rest.comparedAt);
  const where = allTogether(compared ?? reader.conditions);
  const said = groupsFrom(reader);
  // A funnel is of stages.
  const isFunnel = reader.rest.draw === 'funnel' && said.length === 0 && reader.fieldAt('stage');
  const groups = isFunnel ? [{ field: 'stage' }] : said;
  // “Biggest deal per owner”: of each group the figure.
  const [byAmount] = rest.sort;
  const isOfEach = groups.length > 0 && rest.limit === 1 && byAmount?.field === mainAmount[object];
  const extreme = isOfEach
    ? [{ as: byAmount.descending ? ('most' as const) : ('least' as const), of: byAmount.field }]
    : undefined;
  const { draw, asOf } = rest;
  const [sort, limit] = isOfEach ? [[], undefined] : [rest.sort, rest.limit];
  const first: FirstGroups | undefined =
    top && groups.length === 1 ? { measure: 0, descending: top.descending, count: top.count } : undefined;
  // What is put in order by a figure has one.
  const measures =
    extreme ?? (first && rest.measures.length === 0 ? [{ as: 'count' as const }] : rest.measures);
  const question: Question = {
    version: 1,
    object,
    ...(where ? { where } : {}),
    ...(sort.length > 0 ? { sort } : {}),
    ...(groups.length > 0 ? { groups } : {}),
    ...(measures.length > 0 ? { measures } : {}),
    ...(first ? { first } : {}),
    ...(asOf === undefined ? {} : { asOf }),
  };
  return {
    question,
    ...(draw ? { draw } : {}),
    ...(limit === undefined ? {} : { limit }),
    ...(compared ? { compared: rest.compared } : {}),
    ...(rest.hasRate ? { hasRate: true as const } : {}),
  };
}

function noQuestionIn(text: string, { people }: Vocabulary): NoQuestion | undefined {
  for (const [pattern, why] of noQuestions) {
    const found = pattern.exec(text);
    if (!found) continue;
    // Somebody may be called Will.
    const isName = people.some(({ name }) => name.split(' ').includes(found[0]));
    if (!isName) return { from: found.index, to: found.index + found[0].length, why };
  }
  return undefined;
}
