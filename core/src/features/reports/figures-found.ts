import { fieldAt, type FieldValue } from '../../kernel/catalogue';
import {
  allOf,
  canOverlap,
  isCountedApart,
  isDated,
  keyCondition,
  runnable,
  subjectOf,
  type Condition,
  type Grouping,
  type Measure,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { type FiguresAnswer } from '../../kernel/questions/api';
import { daysAt, daysCompared, periodsWithin, type At } from './periods-within';
import { type ReportDesign } from './report';
import { askedBy, daysOf } from './report-question';

/** What was found of a group: how many records, and the measures. */
export interface Cell {
  count: number;
  measured: (number | null)[];
}

/** Records in some of the outermost groups, or in none of them. */
export interface Among {
  join: 'any' | 'none';
  keys: readonly FieldValue[];
}

/** The name of a group by its keys, and by the key it is split by. */
export const nameOf = (keys: readonly FieldValue[], split?: FieldValue): string =>
  JSON.stringify(split === undefined ? [keys] : [keys, split]);

const isAdditive = ({ as, money }: Measure) => (as === 'count' || as === 'sum') && money !== 'own';
const isSame = (one: Measure, other: Measure) => JSON.stringify(one) === JSON.stringify(other);

/** The measures of one kind of records in a report: in every period, at every level of its groups, split and not. */
export class FiguresFound {
  private readonly cells = new Map<At, Map<string, Cell>>();
  private readonly groups: readonly Grouping[];
  private readonly known: readonly boolean[];
  /** The first groups by a measure, however many there are, and how many are beyond them. */
  private firsts: { keys: FieldValue[]; beyond: number } | undefined;
  /** What all records and the first groups come to, by their depth, as far as it was found along with which they are. */
  private readonly foundAlong: FiguresAnswer[] = [];
  /** The keys that figures are split by, where the groups tell in which order they are. */
  private splitKeys: FieldValue[] | undefined;

  /**
   * @param design a report of these records, with the groups that are known of them.
   * @param asked answers a question of a period.
   */
  constructor(
    private readonly design: ReportDesign,
    private readonly measures: readonly Measure[],
    private readonly context: QuestionContext,
    private readonly asked: (question: Question, at: At, among?: Among) => Promise<FiguresAnswer>,
  ) {
    this.groups = design.question.groups ?? [];
    // Of what the person does not see there is no figure, not even nought.
    this.known = measures.map(
      (measure) =>
        runnable({ ...subjectOf(design.question), measures: [measure] }, context).leftOut.length === 0,
    );
  }

  /** How many groups lie beyond the first, where those were chosen by the questions themselves. */
  get beyond(): number | undefined {
    return this.firsts?.beyond;
  }

  /** The names of all groups that anything was found of. */
  names(): string[] {
    return [...this.cells.values()].flatMap((cells) => [...cells.keys()]);
  }

  /** The keys that figures are split by, in their order; once they are found. */
  async splits(): Promise<FieldValue[]> {
    const { split } = this.design;
    if (!split) return [];
    if (this.splitKeys) return this.splitKeys;
    const question = { ...this.question('now', [split]), measures: [{ as: 'count' as const }] };
    return (await this.asked(question, 'now')).rows.map(({ keys: [key] }) => key);
  }

  count(at: At, keys: readonly FieldValue[], split?: FieldValue): number {
    return this.cells.get(at)?.get(nameOf(keys, split))?.count ?? 0;
  }

  /** A measure of a group. The count and the sum of no records are 0; of what is not told by its groups there is none. */
  measured(measure: Measure, at: At, keys: readonly FieldValue[], split?: FieldValue): number | null {
    const index = this.measures.findIndex((each) => isSame(each, measure));
    const isTold = keys.length <= this.groups.length && (split === undefined || this.design.split);
    if (!this.known[index] || !isTold) return null;
    const cell = this.cells.get(at)?.get(nameOf(keys, split));
    const found = cell?.measured[index] ?? null;
    // Amounts of several currencies as they stand have no sum, which is not nought.
    const isNought = cell === undefined || cell.count === 0 || measure.money !== 'own';
    return found === null && isNought && ['count', 'distinct', 'sum'].includes(measure.as) ? 0 : found;
  }

  private get isAdditive(): boolean {
    const { object } = this.design.question;
    const all = [...this.groups, ...(this.design.split ? [this.design.split] : [])];
    return this.measures.every(isAdditive) && !canOverlap(this.context.catalogue, object, all);
  }

  private question(at: At, groups: readonly Grouping[], among?: Among): Question {
    const asked = askedBy(this.design, this.context, daysAt(this.design, at, this.context));
    const both = allOf(asked.where, among && this.isAmong(among));
    return {
      ...asked,
      ...(both ? { where: both } : {}),
      groups,
      measures: [{ as: 'count' }, ...this.measures],
    };
  }

  /** Lets the questions themselves find the first groups by a measure of records: there may be any number of groups. */
  async chooseFirsts(by: Measure): Promise<void> {
    const { top: count, order } = this.design;
    const [outermost] = this.groups;
    const { catalogue } = this.context;
    const type = outermost && fieldAt(catalogue, this.design.question.object, outermost.field)?.type;
    if (count === undefined || by.as === 'share') return;
    if (!type || isDated(type) || !isCountedApart(type)) return;
    const measure = 1 + this.measures.findIndex((each) => isSame(each, by));
    const empty: Condition = { field: outermost.field, is: 'isEmpty' };
    const [first, counted] = await Promise.all([
      this.asked(
        {
          ...this.question('now', [outermost]),
          first: { measure, count, ...(order?.descending ? { descending: true } : {}) },
        },
        'now',
      ),
      this.asked(
        {
          ...this.question('now', []),
          measures: [
            { as: 'count' },
            ...this.measures,
            { as: 'distinct', of: outermost.field },
            { as: 'count', where: empty },
          ],
        },
        'now',
      ),
    ]);
    const { rows } = first;
    if (rows.length === 0) return;
    this.foundAlong.push(counted, first);
    const [different, without] = counted.rows[0].figures.slice(-2);
    const groups = (different ?? 0) + (without ? 1 : 0);
    this.firsts = {
      keys: rows.map(({ keys: [key] }) => key),
      beyond: Math.max(0, groups - rows.length),
    };
  }

  /** The condition that records are in one of these groups of the outermost. */
  private isAmong({ join, keys }: Among): Condition {
    const { catalogue, calendar } = this.context;
    const held = (key: FieldValue) =>
      keyCondition(catalogue, this.design.question.object, this.groups[0], key, calendar);
    return { join, of: keys.map(held).filter((each) => each !== undefined) };
  }

  /** Finds the figures of a period. */
  async find(at: At): Promise<void> {
    const { split } = this.design;
    const cells = new Map<string, Cell>();
    this.cells.set(at, cells);
    const aligned = this.alignment(at);
    const put = (answer: FiguresAnswer, depth: number, isSplit: boolean) => {
      for (const { keys, figures } of answer.rows) {
        const own = keys.slice(0, depth).map((key, index) => aligned(index, key));
        const [count, ...measured] = figures;
        cells.set(nameOf(own, isSplit ? (keys[depth] ?? null) : undefined), { count: count ?? 0, measured });
      }
    };
    const depths = this.groups.map((_, index) => index + 1);
    const deepest = this.groups.length;
    if (this.isAdditive && !this.firsts) {
      const answer = await this.asked(this.question(at, [...this.groups, ...(split ? [split] : [])]), at);
      put(answer, deepest, split !== undefined);
      this.addUp(cells, split !== undefined);
      if (split && at === 'now' && !answer.isCut) this.splitKeys = orderOf(sequences(answer, deepest));
      if (!answer.isCut) return;
      // What was cut off is in no sum: the levels above are asked for themselves.
    }
    // No level needs another: they are asked side by side.
    await Promise.all(
      [0, ...depths].flatMap((depth) => {
        const groups = this.groups.slice(0, depth);
        const among: Among | undefined =
          depth > 0 && this.firsts ? { join: 'any', keys: this.firsts.keys } : undefined;
        const ask = async (by: readonly Grouping[], isSplit: boolean) =>
          put(await this.asked(this.question(at, by, among), at, among), depth, isSplit);
        const known = at === 'now' ? this.foundAlong.at(depth) : undefined;
        if (known) put(known, depth, false);
        return [...(known ? [] : [ask(groups, false)]), ...(split ? [ask([...groups, split], true)] : [])];
      }),
    );
  }

  /** The figures of the levels above, from those of the innermost groups. */
  private addUp(cells: Map<string, Cell>, isSplit: boolean): void {
    const found = [...cells.entries()];
    if (!cells.has(nameOf([]))) cells.set(nameOf([]), this.nothing());
    for (const [name, { count, measured }] of found) {
      const [keys, split] = JSON.parse(name) as [FieldValue[], FieldValue?];
      for (let depth = 0; depth <= keys.length; depth += 1) {
        const at = [nameOf(keys.slice(0, depth)), ...(isSplit ? [nameOf(keys.slice(0, depth), split)] : [])];
        for (const above of at.filter((each) => each !== name))
          cells.set(above, added(cells.get(above) ?? this.nothing(), { count, measured }));
      }
    }
  }

  private nothing(): Cell {
    return { count: 0, measured: this.measures.map(() => null) };
  }

  /** Turns the keys of another period into those of this one: its first month stands beside the first month. */
  private alignment(at: At): (index: number, key: FieldValue) => FieldValue {
    const { period } = this.design;
    if (at === 'now' || !period) return (_, key) => key;
    const maps = this.groups.map(({ field, by }) => {
      if (field !== period.field) return undefined;
      const theirs = periodsWithin(daysCompared(period, at, this.context), by, this.context);
      const ours = periodsWithin(daysOf(period, this.context), by, this.context);
      return new Map(theirs.map((key, index) => [key, ours.at(index) ?? key]));
    });
    return (index, key) => maps[index]?.get(String(key)) ?? key;
  }

  /** Whether groups can be taken away from all of them to the last digit: counts, and amounts in whole minor units. */
  private get canTakeAway(): boolean {
    const { object } = this.design.question;
    const isWhole = ({ as, of }: Measure) =>
      as === 'count' || (of !== undefined && fieldAt(this.context.catalogue, object, of)?.type === 'money');
    return this.isAdditive && this.measures.every(isWhole);
  }

  /**
   * Puts what is beyond the first groups together under a name of its own; asked for anew where it is more than their sum.
   * @param rest the groups beyond the first, as far as they were found.
   */
  async putRest(
    own: readonly FieldValue[],
    rest: readonly (readonly FieldValue[])[],
    first: readonly (readonly FieldValue[])[],
    splits: readonly FieldValue[],
  ): Promise<void> {
    for (const [at, cells] of this.cells) {
      for (const split of [undefined, ...splits]) {
        const all = cells.get(nameOf([], split)) ?? this.nothing();
        const of = (names: typeof first) =>
          names
            .map((keys) => cells.get(nameOf(keys, split)))
            .filter((cell) => cell !== undefined)
            .reduce<Cell>(added, this.nothing());
        cells.set(nameOf(own, split), this.firsts ? without(all, of(first)) : of(rest));
      }
      if (this.firsts ? this.canTakeAway : this.isAdditive || at !== 'now') continue;
      if (this.groups.length === 0) continue;
      const beyond: Among = { join: 'none', keys: first.map(([key]) => key) };
      const { split } = this.design;
      for (const groups of split ? [[], [split]] : [[]])
        for (const { keys, figures } of (await this.asked(this.question(at, groups, beyond), at, beyond))
          .rows) {
          const [count, ...measured] = figures;
          const name = nameOf(own, groups.length > 0 ? (keys[0] ?? null) : undefined);
          cells.set(name, { count: count ?? 0, measured });
        }
    }
  }
}

/** The keys that each innermost group is split by, in the order they came in. */
function sequences({ rows }: FiguresAnswer, depth: number): FieldValue[][] {
  const found = new Map<string, FieldValue[]>();
  for (const { keys } of rows) {
    const name = nameOf(keys.slice(0, depth));
    const of = found.get(name);
    if (of) of.push(keys[depth] ?? null);
    else found.set(name, [keys[depth] ?? null]);
  }
  return [...found.values()];
}

/** The one order that all sequences follow; undefined where they leave any two keys apart, or contradict each other. */
export function orderOf(all: readonly (readonly FieldValue[])[]): FieldValue[] | undefined {
  const behind = new Map<FieldValue, Set<FieldValue>>(all.flat().map((key) => [key, new Set()]));
  for (const keys of all)
    for (const [index, key] of keys.slice(1).entries()) behind.get(key)?.add(keys[index]);
  const order: FieldValue[] = [];
  while (behind.size > 0) {
    const next = [...behind].filter(([, before]) => before.size === 0);
    if (next.length !== 1) return undefined;
    const [[key]] = next;
    order.push(key);
    behind.delete(key);
    for (const before of behind.values()) before.delete(key);
  }
  return order;
}

/** What is left of figures that add up. */
const without = (all: Cell, some: Cell): Cell => ({
  count: all.count - some.count,
  measured: all.measured.map((value, index) => (value ?? 0) - (some.measured[index] ?? 0)),
});

function added(a: Cell, b: Cell): Cell {
  return {
    count: a.count + b.count,
    measured: a.measured.map((value, index) => {
      const other = b.measured[index];
      return value === null ? other : other === null ? value : value + other;
    }),
  };
}
