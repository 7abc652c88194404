import { type Condition } from '../../kernel/questions';
export * from './territories';

/** One rule of who gets a new lead; the first whose condition is met decides. */
export interface AssignmentRule {
  id: number;
  name: string;
  /** Met by every lead when left out. */
  where?: Condition;
  gives: { to: 'person'; person: number } | { to: 'turns'; people: readonly number[] };
}

/** How often someone had their turn in a rule, and when last. */
export interface Turn {
  person: number;
  count: number;
  last: string | null;
}

/** Who gets a lead, and by which rule; no rule means the default owner. */
export interface Assigned {
  owner: number;
  rule: AssignmentRule | null;
}

/** The turns of a group, with those who have not had any yet beside the one who had fewest: nobody catches up. */
function standing(people: readonly number[], turns: readonly Turn[]): Turn[] {
  const known = turns.filter(({ person }) => people.includes(person));
  const fewest = known.length === 0 ? 0 : Math.min(...known.map(({ count }) => count));
  return people.map(
    (person) => known.find((turn) => turn.person === person) ?? { person, count: fewest, last: null },
  );
}

/**
 * Whose turn it is: of those who are here, who had fewest; of these, who waited longest; then in the order of the
 * group. Who is away is passed over, and does not get everything at once on coming back.
 * @returns undefined when nobody is here; otherwise the person and the turns as they stand afterwards.
 */
export function nextInTurn(
  people: readonly number[],
  turns: readonly Turn[],
  isHere: (person: number) => boolean,
  at: string,
): { person: number; turns: Turn[] } | undefined {
  const all = standing(people, turns);
  const here = all.filter(({ person }) => isHere(person));
  if (here.length === 0) return undefined;
  const next = here.reduce((best, turn) =>
    turn.count < best.count || (turn.count === best.count && (turn.last ?? '') < (best.last ?? ''))
      ? turn
      : best,
  );
  const after = all.map((turn) => (turn === next ? { ...turn, count: turn.count + 1, last: at } : turn));
  const fewest = Math.min(...after.filter(({ person }) => isHere(person)).map(({ count }) => count));
  return {
    person: next.person,
    turns: after.map((turn) =>
      isHere(turn.person) ? turn : { ...turn, count: Math.max(turn.count, fewest) },
    ),
  };
}

/** Gives leads to people one after the other, and remembers whose turn it was. */
export class Assigner {
  private readonly changed = new Set<number>();

  /**
   * @param turns of each rule, by its id.
   * @param defaultOwner gets what no rule gives to anyone.
   */
  constructor(
    private readonly rules: readonly AssignmentRule[],
    private readonly turns: Map<number, readonly Turn[]>,
    private readonly isHere: (person: number) => boolean,
    private readonly defaultOwner: number,
  ) {}

  /**
   * Who gets the next lead. A rule whose people are all away is passed over.
   * @param meets whether the lead meets a condition.
   */
  next(meets: (where: Condition) => boolean, at: string): Assigned {
    for (const rule of this.rules) {
      if (rule.where && !meets(rule.where)) continue;
      const { gives } = rule;
      if (gives.to === 'person') {
        if (this.isHere(gives.person)) return { owner: gives.person, rule };
        continue;
      }
      const taken = nextInTurn(gives.people, this.turns.get(rule.id) ?? [], this.isHere, at);
      if (!taken) continue;
      this.turns.set(rule.id, taken.turns);
      this.changed.add(rule.id);
      return { owner: taken.person, rule };
    }
    return { owner: this.defaultOwner, rule: null };
  }

  /** The turns that are no longer as they were given, by rule. */
  get changedTurns(): [rule: number, turns: readonly Turn[]][] {
    return [...this.changed].map((rule) => [rule, this.turns.get(rule) ?? []]);
  }
}
