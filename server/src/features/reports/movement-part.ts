import {
  addDays,
  converterAt,
  emptyMovement,
  endOfDay,
  fieldOf,
  holds,
  inARow,
  metThen,
  movementsOf,
  movementSteps,
  periodsWithin,
  rateOn,
  stoodBefore,
  together,
  type AnyRecord,
  type Condition,
  type FieldValue,
  type LoggedRecord,
  type Movement,
  type MovementEntry,
  type MovementPart,
  type MovementQuestion,
  type MovementSpan,
  type PastChange,
  type QuestionContext,
  type Rate,
} from '@zawn/core';
import { dealChangesByRecord, type DealChanges } from '../../kernel/changes/past-changes';
import { unlikeStored, valueOf } from '../../kernel/questions/rows-as-records';
import { type ReadLists } from '../../platform/database/reading-thread';
import { type Statement } from '../../platform/database/statement';

/** Deals named in a step; the figure counts all of them. */
const MOST_NAMED = 200;

/** What the movement of a part of the deals is made of. */
export interface PartGiven {
  asked: MovementQuestion;
  context: QuestionContext;
  rates: readonly Rate[];
  /** Which team each person is in. */
  teams: ReadonlyMap<number, number | null>;
  /** The fields of a deal that are looked at. */
  fields: readonly string[];
  /** Every change since the beginning, each once. */
  changes: readonly DealChanges[];
  /** The deals changed since then, and those meant that were not: each the id and the fields. */
  changed: Statement | undefined;
  steady: Statement | undefined;
  /** The deals deleted since then. */
  gone: readonly AnyRecord[];
  /** What the log cannot tell is judged as it is today: which deals meet each such part of the condition. */
  meeting: ReadonlyMap<Condition, ReadonlySet<number>>;
  /** So many changes at most. */
  most: number;
}

/** How a part of the deals moved: all of them, and each group by itself. */
export interface MovedPart {
  all: MovementPart;
  groups: MovementPart[];
}

/** The movement of a part of the deals; nothing where more happened than can be told at once. */
export function movementPart(read: ReadLists, given: PartGiven): MovedPart | undefined {
  const { asked, context, rates, teams } = given;
  const { by } = asked;
  const changes = dealChangesByRecord(read, given.changes);
  if (countOf(changes) > given.most) return undefined;
  const deals = (statement: Statement | undefined) => (statement ? dealsOf(read(statement), given) : []);
  // Of some nothing was changed that is looked at.
  const logged = (isDeleted: boolean) => (now: AnyRecord) => ({
    now,
    isDeleted,
    changes: changes.get(now.id) ?? [],
  });
  const records: LoggedRecord[] = [
    ...deals(given.changed).map(logged(false)),
    ...given.gone.map(logged(true)),
  ];
  const steady = deals(given.steady);
  const spans = spansOf(asked, context, rates);
  const { end } = spans[spans.length - 1];
  const pasts = records.map((record) => stoodBefore(record, end));
  const isIn = judge(given);
  const keyOf = (deal: AnyRecord, span: MovementSpan): FieldValue => {
    if (by === undefined) return null;
    if (by === 'month') return span.from;
    return by === 'team' ? (teams.get(Number(deal.owner)) ?? null) : (deal[by] ?? null);
  };
  const found = by ? movementsOf(pasts, steady, spans, { isIn, keyOf }) : [];
  const ofMonth = ({ from }: MovementSpan) => found.find(({ key }) => key === from) ?? emptyMovement(from);
  const groups = by === 'month' ? spans.map(ofMonth) : found;
  const all =
    by === 'month'
      ? inARow(groups)
      : together(movementsOf(pasts, steady, spans, { isIn, keyOf: () => null }));
  return { all: shortened(all), groups: groups.map(shortened) };
}

/** Parts of the deals put together: each deal is in one of them. */
export function partsTogether(parts: readonly MovedPart[]): MovedPart {
  const byKey = new Map<FieldValue, MovementPart[]>();
  for (const group of parts.flatMap(({ groups }) => groups)) {
    const same = byKey.get(group.key);
    if (same) same.push(group);
    else byKey.set(group.key, [group]);
  }
  return { all: summed(parts.map(({ all }) => all)), groups: [...byKey.values()].map(summed) };
}

function summed(parts: readonly MovementPart[]): MovementPart {
  const [first] = parts;
  const open = (of: (part: MovementPart) => MovementPart['start']) => ({
    value: parts.reduce((sum, part) => sum + of(part).value, 0),
    count: parts.reduce((sum, part) => sum + of(part).count, 0),
  });
  return {
    key: first.key,
    start: open(({ start }) => start),
    end: open(({ end }) => end),
    steps: Object.fromEntries(
      movementSteps.map((step) => {
        const entries = largestOf(parts.flatMap(({ steps }) => steps[step].entries));
        return [step, { ...open(({ steps }) => steps[step]), entries }];
      }),
    ) as MovementPart['steps'],
  };
}

const countOf = (changes: ReadonlyMap<number, readonly PastChange[]>) =>
  [...changes.values()].reduce((count, of) => count + of.length, 0);

/** Deals with the fields that are looked at, from their ids and the values of each of these. */
function dealsOf(
  [ids, ...values]: readonly unknown[][],
  { fields, context: { catalogue } }: PartGiven,
): AnyRecord[] {
  const typed = unlikeStored(catalogue, 'deal', fields);
  return ids.map((id, place) => {
    const deal: Record<string, FieldValue> = { id: id as number };
    for (let at = 0; at < fields.length; at += 1) deal[fields[at]] = values[at][place] as FieldValue;
    for (const key of typed) deal[key] = valueOf(fieldOf(catalogue, 'deal', key), deal[key]);
    return deal as AnyRecord;
  });
}

/** Whether a deal as it stood is meant: open, and as asked. */
function judge({ asked: { where }, meeting, context, rates }: PartGiven): (deal: AnyRecord) => boolean {
  if (!where) return ({ outcome }) => outcome === 'open';
  const around = { find: () => undefined, linking: () => [], rates: [...rates] };
  return (deal) =>
    deal.outcome === 'open' &&
    metThen(where, (part) => meeting.get(part)?.has(deal.id) ?? holds(part, 'deal', deal, context, around));
}

/** The parts of the time that are told by themselves: each month, or all of it at once. */
function spansOf(
  { from, to, by }: MovementQuestion,
  context: QuestionContext,
  rates: readonly Rate[],
): MovementSpan[] {
  const months = by === 'month' ? periodsWithin({ from, to: addDays(to, 1) }, 'month', context) : [from];
  return months.map((first, index) => {
    const last = index + 1 < months.length ? addDays(months[index + 1], -1) : to;
    const begins = index === 0 ? from : first;
    return {
      from: first,
      end: endOfDay(context.timeZone, last),
      // It begins with what stood at the end of the day before.
      atStart: worthOn(addDays(begins, -1), rates, context),
      atEnd: worthOn(last, rates, context),
    };
  });
}

/**
 * What deals are worth in the reporting currency at the rates of a day; nothing where their currency has none. Each rate
 * is looked for once.
 */
function worthOn(
  day: string,
  rates: readonly Rate[],
  { reportingCurrency }: QuestionContext,
): (deal: AnyRecord) => number {
  const known = new Map<FieldValue, (amount: number) => number>();
  const convertFrom = (currency: FieldValue) => {
    const rate = rateOn(rates, reportingCurrency, String(currency), day);
    const convert = rate === undefined ? () => 0 : converterAt(rate);
    known.set(currency, convert);
    return convert;
  };
  return ({ value, currency }) => {
    if (value === null || value === undefined) return 0;
    if (currency === reportingCurrency) return Number(value);
    return (known.get(currency) ?? convertFrom(currency))(Number(value));
  };
}

const bySize = (a: MovementEntry, b: MovementEntry) =>
  Math.abs(b.value) - Math.abs(a.value) || a.deal - b.deal || (a.at < b.at ? -1 : 1);

/** The largest of a step's deals: of thousands only those that may be among them are put in order. */
function largestOf(entries: readonly MovementEntry[]): MovementEntry[] {
  if (entries.length <= MOST_NAMED) return [...entries].sort(bySize);
  const sizes = Float64Array.from(entries, ({ value }) => Math.abs(value)).sort();
  const least = sizes[sizes.length - MOST_NAMED];
  return entries
    .filter(({ value }) => Math.abs(value) >= least)
    .sort(bySize)
    .slice(0, MOST_NAMED);
}

/** A movement with the largest of each step's deals. */
const shortened = ({ steps, ...rest }: Movement): MovementPart => ({
  ...rest,
  steps: Object.fromEntries(
    movementSteps.map((step) => {
      const { value, entries } = steps[step];
      return [step, { value, count: entries.length, entries: largestOf(entries) }];
    }),
  ) as MovementPart['steps'],
});
