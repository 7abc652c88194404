import { fieldAt, isOwnField, type AnyRecord, type Catalogue, type FieldValue } from '../../kernel/catalogue';
import { isGroup, isRelated, isToldInPast, type Condition, pathsOfTest } from '../../kernel/questions';
import { type Day } from '../../platform/time';
import { stoodBefore, type LoggedRecord, type PastStep, type Stood } from '../../kernel/changes/as-it-stood';

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

/** What deals are put together by; a team is that of the owner, as it is today. */
export const movementGroups = ['owner', 'team', 'stage', 'pipeline', 'source'] as const;
export type MovementGroup = (typeof movementGroups)[number];

/** The field of a deal that a group is read from. */
export const fieldOfGroup = (by: MovementGroup): string => (by === 'team' ? 'owner.team' : by);

/** What a movement is asked of. */
export interface MovementQuestion {
  where?: Condition;
  from: Day;
  to: Day;
  by?: MovementGroup;
}

/**
 * The fields of a condition that the past of a deal cannot tell: what lies behind links, what is computed, and what others
 * say of it. The log knows the values of the deal itself.
 */
export function unknownInPast(catalogue: Catalogue, condition: Condition | undefined): string[] {
  if (!condition) return [];
  if (isGroup(condition)) return condition.of.flatMap((part) => unknownInPast(catalogue, part));
  if (isRelated(condition)) return [condition.related];
  // Only what is kept in the deal itself is read back.
  const isOwn = (path: string) =>
    isOwnField(path) &&
    fieldAt(catalogue, 'deal', path)?.set !== 'computed' &&
    isToldInPast(catalogue, 'deal', path);
  return pathsOfTest(condition).filter((path) => !isOwn(path));
}

/** The fields that a condition looks at. */
export function fieldsIn(condition: Condition | undefined): string[] {
  if (!condition) return [];
  if (isGroup(condition)) return condition.of.flatMap(fieldsIn);
  return isRelated(condition) ? [] : pathsOfTest(condition);
}

interface Rules {
  /** Whether a deal as it stood is meant: open, and as asked. */
  isIn: (deal: AnyRecord) => boolean;
  keyOf: (deal: AnyRecord) => FieldValue;
  /** The value of a deal in the reporting currency at the rates of the first and of the last day. */
  atStart: (deal: AnyRecord) => number;
  atEnd: (deal: AnyRecord) => number;
}

const emptyMovement = (key: FieldValue): Movement => ({
  key,
  start: { value: 0, count: 0 },
  steps: Object.fromEntries(
    movementSteps.map((step) => [step, { value: 0, entries: [] as MovementEntry[] }]),
  ) as unknown as Movement['steps'],
  end: { value: 0, count: 0 },
});

function entering({ fields, before }: PastStep): MovementStep {
  if (!before) return 'created';
  if (fields.has('outcome')) return 'reopened';
  if (fields.has('closeOn')) return 'pulledIn';
  return fields.has('owner') ? 'handedIn' : 'movedIn';
}

function leaving({ fields, after }: PastStep): MovementStep {
  if (!after) return 'deleted';
  if (after.outcome === 'won' || after.outcome === 'lost') return after.outcome;
  if (fields.has('closeOn')) return 'pushedOut';
  return fields.has('owner') ? 'handedOut' : 'movedOut';
}

/**
 * The movement of every group between two moments. A step counts at the rates of the first day; what the rates did by
 * themselves is a step of its own, so that all of it adds up.
 * @param histories the deals that something was done to since the beginning.
 * @param steady the deals meant that nothing was done to.
 * @param end the moment that ends it; what was done later is taken back.
 */
export function movementsOf(
  histories: readonly LoggedRecord[],
  steady: readonly AnyRecord[],
  end: string,
  rules: Rules,
): Movement[] {
  const found = new Map<FieldValue, Movement>();
  const of = (deal: AnyRecord): Movement => {
    const key = rules.keyOf(deal);
    let movement = found.get(key);
    if (!movement) found.set(key, (movement = emptyMovement(key)));
    return movement;
  };
  const isIn = (deal: Stood): deal is AnyRecord => deal !== undefined && rules.isIn(deal);
  const add = (movement: Movement, step: MovementStep, entry: MovementEntry) => {
    movement.steps[step].value += entry.value;
    movement.steps[step].entries.push(entry);
  };
  const begin = (deal: AnyRecord) => {
    const { start } = of(deal);
    start.value += rules.atStart(deal);
    start.count += 1;
  };
  const finish = (deal: AnyRecord) => {
    const movement = of(deal);
    const value = rules.atEnd(deal);
    movement.end.value += value;
    movement.end.count += 1;
    const byRates = value - rules.atStart(deal);
    if (byRates !== 0) add(movement, 'currency', { deal: deal.id, value: byRates, at: end, person: null });
  };
  for (const deal of steady) {
    begin(deal);
    finish(deal);
  }
  for (const history of histories) {
    const { now } = history;
    const { before: first, steps } = stoodBefore(history);
    const entry = ({ at, person }: PastStep, value: number) => ({ deal: now.id, value, at, person });
    let stood: Stood = first;
    if (isIn(first)) begin(first);
    // What was brought back from the bin was there before the beginning, or was seen to come.
    let wasThere = first !== undefined;
    for (const step of steps) {
      if (step.at > end) break;
      const { before, after } = step;
      const [was, is] = [isIn(before) ? before : undefined, isIn(after) ? after : undefined];
      const stays = was && is && rules.keyOf(was) === rules.keyOf(is);
      const isMoved = step.fields.has('closeOn');
      if (was && after) {
        // A deal goes at the value it has then: what was raised or cut along with it is told apart.
        const more = rules.atStart(after) - rules.atStart(was);
        if (more !== 0)
          add(of(was), more > 0 ? 'raised' : 'cut', {
            ...entry(step, more),
            from: was.value,
            to: after.value,
          });
      }
      if (was && !stays) {
        const gone = rules.atStart(after ?? was);
        const moved = isMoved ? { from: was.closeOn, to: after?.closeOn ?? null } : {};
        add(of(was), leaving(step), { ...entry(step, gone === 0 ? 0 : -gone), ...moved });
      }
      if (is && !stays) {
        const came = !before && wasThere ? 'restored' : entering(step);
        const moved = before && isMoved ? { from: before.closeOn, to: is.closeOn } : {};
        add(of(is), came, { ...entry(step, rules.atStart(is)), ...moved });
      }
      wasThere ||= after !== undefined;
      stood = after;
    }
    if (isIn(stood)) finish(stood);
  }
  return [...found.values()];
}

/** Several movements put together. Handing on between groups is both out of one and into another. */
export function together(movements: readonly Movement[]): Movement {
  const all = emptyMovement(null);
  for (const { start, steps, end } of movements) {
    all.start.value += start.value;
    all.start.count += start.count;
    all.end.value += end.value;
    all.end.count += end.count;
    for (const step of movementSteps) {
      all.steps[step].value += steps[step].value;
      all.steps[step].entries.push(...steps[step].entries);
    }
  }
  return all;
}
