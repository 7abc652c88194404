import { fieldAt, isOwnField, type AnyRecord, type Catalogue, type FieldValue } from '../../kernel/catalogue';
import { isGroup, isRelated, isToldInPast, type Condition, pathsOfTest } from '../../kernel/questions';
import { type Day } from '../../platform/time';
import { type PastStep, type RecordPast } from '../../kernel/changes/as-it-stood';

/** What changes how much is open, in the order it is told in. */
export const movementSteps = [
  'created',
  'restored',
  'reopened',
  'raised',
  'pulledIn',
  'handedIn',
  'movedIn',
  'won',
  'lost',
  'pushedOut',
  'cut',
  'handedOut',
  'movedOut',
  'deleted',
  'currency',
] as const;
export type MovementStep = (typeof movementSteps)[number];

export const movementStepNames: Record<MovementStep, string> = {
  created: 'Created',
  restored: 'Brought back',
  reopened: 'Reopened',
  raised: 'Raised',
  pulledIn: 'Pulled in',
  handedIn: 'Handed in',
  movedIn: 'Moved in',
  won: 'Won',
  lost: 'Lost',
  pushedOut: 'Pushed out',
  cut: 'Cut',
  handedOut: 'Handed out',
  movedOut: 'Moved out',
  deleted: 'Deleted',
  currency: 'Exchange rates',
};

/** One deal in one step: by how much, by whom and when. */
export interface MovementEntry {
  deal: number;
  /** In minor units of the reporting currency; negative where it is less. */
  value: number;
  at: string;
  person: number | null;
  /** What the deal's value and close date were, and are, where that is what changed. */
  from?: FieldValue;
  to?: FieldValue;
}

/** How much was open, what happened, and how much is: `start` and every step come to `end`. */
export interface Movement {
  /** The group it is of; nothing where it is of all. */
  key: FieldValue;
  start: { value: number; count: number };
  steps: Record<MovementStep, { value: number; entries: MovementEntry[] }>;
  end: { value: number; count: number };
}

/** What deals are put together by; a team is that of the owner, as it is today. By month, each is a movement of its own. */
export const movementGroups = ['owner', 'team', 'stage', 'pipeline', 'source', 'month'] as const;
export type MovementGroup = (typeof movementGroups)[number];

/** How each is said. */
export const movementGroupNames: Record<MovementGroup, string> = {
  owner: 'By owner',
  team: 'By team',
  stage: 'By stage',
  pipeline: 'By pipeline',
  source: 'By source',
  month: 'By month',
};

/** The field of a deal that a group is read from; none where it is not told from deals. */
export const fieldOfGroup = (by: MovementGroup): string | undefined =>
  by === 'team' ? 'owner.team' : by === 'month' ? undefined : by;

/** What a movement is asked of. */
export interface MovementQuestion {
  where?: Condition;
  from: Day;
  to: Day;
  by?: MovementGroup;
}

/**
 * The parts of a condition that the log of a deal cannot tell: what lies behind links, what is computed, and what others
 * say of it. They are judged as they are today.
 */
export function judgedToday(catalogue: Catalogue, condition: Condition | undefined): Condition[] {
  if (!condition) return [];
  if (isGroup(condition)) return condition.of.flatMap((part) => judgedToday(catalogue, part));
  if (isRelated(condition)) return [condition];
  // Only what is kept in the deal itself is read back.
  const isOwn = (path: string) =>
    isOwnField(path) &&
    fieldAt(catalogue, 'deal', path)?.set !== 'computed' &&
    isToldInPast(catalogue, 'deal', path);
  return pathsOfTest(condition).every(isOwn) ? [] : [condition];
}

/** The fields of the deal itself that a condition looks at, as it stood. */
export function fieldsThen(catalogue: Catalogue, condition: Condition | undefined): string[] {
  if (!condition || isRelated(condition)) return [];
  if (isGroup(condition)) return condition.of.flatMap((part) => fieldsThen(catalogue, part));
  return judgedToday(catalogue, condition).length > 0 ? [] : pathsOfTest(condition);
}

/** Whether a deal as it stood meets a condition, its parts judged one by one. */
export function metThen(condition: Condition, judge: (part: Condition) => boolean): boolean {
  if (!isGroup(condition)) return judge(condition);
  const { join, of } = condition;
  if (join === 'all') return of.every((part) => metThen(part, judge));
  return of.some((part) => metThen(part, judge)) === (join === 'any');
}

/** A part of the time whose movement is told by itself; the next begins where it ends. */
export interface MovementSpan {
  /** The first day of it. */
  from: Day;
  /** Its last instant; what was done later is not in it. */
  end: string;
  /** The value of a deal in the reporting currency at the rates it begins with, and at those it ends with. */
  atStart: (deal: AnyRecord) => number;
  atEnd: (deal: AnyRecord) => number;
}

interface Rules {
  /** Whether a deal as it stood is meant: open, and as asked. */
  isIn: (deal: AnyRecord) => boolean;
  keyOf: (deal: AnyRecord, span: MovementSpan) => FieldValue;
}

export const emptyMovement = (key: FieldValue): Movement => ({
  key,
  start: { value: 0, count: 0 },
  steps: Object.fromEntries(
    movementSteps.map((step) => [step, { value: 0, entries: [] as MovementEntry[] }]),
  ) as unknown as Movement['steps'],
  end: { value: 0, count: 0 },
});

function entering({ fields, before }: PastStep): MovementStep {
  if (!before) return 'created';
  if (fields.includes('outcome')) return 'reopened';
  if (fields.includes('closeOn')) return 'pulledIn';
  return fields.includes('owner') ? 'handedIn' : 'movedIn';
}

function leaving({ fields, after }: PastStep): MovementStep {
  if (!after) return 'deleted';
  if (after.outcome === 'won' || after.outcome === 'lost') return after.outcome;
  if (fields.includes('closeOn')) return 'pushedOut';
  return fields.includes('owner') ? 'handedOut' : 'movedOut';
}

/**
 * The movement of every group from the beginning of the first span to the end of the last. A step counts at the rates that
 * its span begins with; what the rates did by themselves is a step of its own, so that all of it adds up.
 * @param pasts the deals that something was done to since the beginning.
 * @param steady the deals meant that nothing was done to.
 * @param spans one after the other, without a gap.
 */
export function movementsOf(
  pasts: readonly RecordPast[],
  steady: readonly AnyRecord[],
  spans: readonly MovementSpan[],
  { isIn, keyOf }: Rules,
): Movement[] {
  const found = new Map<FieldValue, Movement>();
  const of = (deal: AnyRecord, span: MovementSpan): Movement => {
    const key = keyOf(deal, span);
    let movement = found.get(key);
    if (!movement) found.set(key, (movement = emptyMovement(key)));
    return movement;
  };
  const add = (movement: Movement, step: MovementStep, entry: MovementEntry) => {
    movement.steps[step].value += entry.value;
    movement.steps[step].entries.push(entry);
  };
  const begin = (deal: AnyRecord, span: MovementSpan) => {
    const { start } = of(deal, span);
    start.value += span.atStart(deal);
    start.count += 1;
  };
  const finish = (deal: AnyRecord, span: MovementSpan) => {
    const movement = of(deal, span);
    const value = span.atEnd(deal);
    movement.end.value += value;
    movement.end.count += 1;
    const byRates = value - span.atStart(deal);
    if (byRates !== 0)
      add(movement, 'currency', { deal: deal.id, value: byRates, at: span.end, person: null });
  };
  for (const deal of steady)
    for (const span of spans) {
      begin(deal, span);
      finish(deal, span);
    }
  for (const { id, before: first, steps } of pasts) {
    let was = first && isIn(first) ? first : undefined;
    // What was brought back from the bin was there before the beginning, or was seen to come.
    let wasThere = first !== undefined;
    let next = 0;
    for (const span of spans) {
      if (was) begin(was, span);
      for (; next < steps.length && steps[next].at <= span.end; next += 1) {
        const step = steps[next];
        const { before, after, fields, at, person } = step;
        const is = after && isIn(after) ? after : undefined;
        if (was || is) {
          // A deal goes at the value it has then: what was raised or cut along with it is told apart.
          const value = after ? span.atStart(after) : span.atStart(was as AnyRecord);
          const more = was && after ? value - span.atStart(was) : 0;
          if (was && more !== 0) {
            const values = { from: was.value, to: (after as AnyRecord).value };
            add(of(was, span), more > 0 ? 'raised' : 'cut', { deal: id, value: more, at, person, ...values });
          }
          const stays = was && is && keyOf(was, span) === keyOf(is, span);
          const isMoved = before && fields.includes('closeOn');
          const days = isMoved ? { from: before.closeOn, to: after?.closeOn ?? null } : undefined;
          if (was && !stays)
            add(of(was, span), leaving(step), { deal: id, value: value && -value, at, person, ...days });
          if (is && !stays) {
            const came = !before && wasThere ? 'restored' : entering(step);
            add(of(is, span), came, { deal: id, value, at, person, ...days });
          }
        }
        wasThere ||= after !== undefined;
        was = is;
      }
      if (was) finish(was, span);
    }
  }
  return [...found.values()];
}

const emptied = (key: FieldValue, start: Movement['start'], end: Movement['end']): Movement => ({
  ...emptyMovement(key),
  start: { ...start },
  end: { ...end },
});

/** Several movements put together. Handing on between groups is both out of one and into another. */
export function together(movements: readonly Movement[]): Movement {
  const sum = (part: (movement: Movement) => Movement['start']) => ({
    value: movements.reduce((all, movement) => all + part(movement).value, 0),
    count: movements.reduce((all, movement) => all + part(movement).count, 0),
  });
  return withSteps(
    emptied(
      null,
      sum(({ start }) => start),
      sum(({ end }) => end),
    ),
    movements,
  );
}

/** The movements of spans put one after the other, the earliest first: from the start of the first to the end of the last. */
export function inARow(movements: readonly Movement[]): Movement {
  const none = { value: 0, count: 0 };
  return withSteps(emptied(null, movements.at(0)?.start ?? none, movements.at(-1)?.end ?? none), movements);
}

function withSteps(all: Movement, movements: readonly Movement[]): Movement {
  for (const { steps } of movements)
    for (const step of movementSteps) {
      all.steps[step].value += steps[step].value;
      for (const entry of steps[step].entries) all.steps[step].entries.push(entry);
    }
  return all;
}
