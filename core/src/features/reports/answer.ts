import { fieldAt, type Catalogue, type FieldValue } from '../../kernel/catalogue';
import {
  allOf,
  canOverlap,
  isCountedApart,
  isDated,
  keyCondition,
  onItsDay,
  runnable,
  subjectOf,
  type Condition,
  type Grouping,
  type LeftOut,
  type Measure,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { type FiguresAnswer, type Names } from '../../kernel/questions/api';
import { periodOf, type Period } from '../../platform/time';
import { evaluate, isFormulaFault, readFormula, type Expression } from './formula';
import { MOST_PERIODS, periodsWithin, type At } from './periods-within';
import {
  askedBy,
  daysCompared,
  daysOf,
  type ComparedPeriod,
  type FigureTest,
  type ReportDesign,
  type ReportFigure,
  type ReportRow,
} from './report';

/** Answers a question in figures. */
export type AskFigures = (question: Question) => Promise<FiguresAnswer>;

/** The answer to a report. */
export interface ReportAnswer {
  /** The keys every figure is split by, in their order; empty where nothing is split. */
  splits: FieldValue[];
  /** All records first, then each group in front of those within it. */
  rows: ReportRow[];
  names: Names;
  leftOut: LeftOut[];
  /** Records whose amount is in no figure, as its currency has no rate. */
  unrated: number;
  /** There are more groups than are answered. */
  isCut: boolean;
  /** Innermost groups left out, as their figures are not as wanted. */
  dropped: number;
  /** The days it is about, and those it is compared with; half-open. */
  period?: Period;
  compared: Partial<Record<ComparedPeriod, Period>>;
}

/** What was found of a group: how many records, and the measures. */
interface Cell {
  count: number;
  measured: (number | null)[];
}

const nameOf = (keys: readonly FieldValue[], split?: FieldValue) =>
  JSON.stringify(split === undefined ? [keys] : [keys, split]);

const isAdditive = ({ as, money }: Measure) => (as === 'count' || as === 'sum') && money !== 'own';

const meets = (value: number | null, { is, value: wanted }: FigureTest): boolean => {
  if (value === null) return is === 'isNot';
  if (typeof wanted === 'object') return value >= wanted[0] && value <= wanted[1];
  switch (is) {
    case 'is':
      return value === wanted;
    case 'isNot':
      return value !== wanted;
    case 'below':
      return value < wanted;
    case 'atMost':
      return value <= wanted;
    case 'above':
      return value > wanted;
    default:
      return value >= wanted;
  }
};

/** The periods beside its own that a report needs. */
function comparedIn({ figures, period }: ReportDesign): ComparedPeriod[] {
  if (!period) return [];
  const wanted = figures.flatMap((figure) =>
    'past' in figure ? [figure.of] : 'change' in figure ? [figure.against] : [],
  );
  return [...new Set(wanted)];
}

/**
 * A report without the groups and the split that its reader does not see, or that are gone: what is answered, and drawn.
 * What is left out is told; other parts are left out by the questions themselves.
 */
export function knownReport(
  design: ReportDesign,
  catalogue: Catalogue,
): { design: ReportDesign; leftOut: LeftOut[] } {
  const { split, ...rest } = design;
  const { groups = [] } = design.question;
  const subject = subjectOf(design.question);
  const partsGone = (grouping: Grouping) =>
    runnable({ ...subject, groups: [grouping] }, { catalogue, lists: [] }).leftOut;
  const isKnown = (grouping: Grouping) => partsGone(grouping).length === 0;
  return {
    design: {
      ...rest,
      question: { ...design.question, groups: groups.filter(isKnown) },
      ...(split && isKnown(split) ? { split } : {}),
    },
    leftOut: [...groups, ...(split ? [split] : [])].flatMap(partsGone),
  };
}

/** A report on its way: what was found, and what is made of it. */
class Report {
  private readonly groups: readonly Grouping[];
  private readonly measures: readonly Measure[];
  private readonly known: readonly boolean[];
  private readonly cells = new Map<At, Map<string, Cell>>();
  private readonly formulas = new Map<string, Expression>();
  private readonly byKey: ReadonlyMap<string, ReportFigure>;
  private readonly leftOut = new Map<string, LeftOut>();
  private readonly running = new Map<string, Map<string, number | null>>();
  private names: Names = {};
  private unrated = 0;
  private isCut = false;
  private splits: FieldValue[] = [];
  /** The first groups by a measure, however many there are, and how many are beyond them. */
  private firsts: { keys: FieldValue[]; beyond: number } | undefined;

  private readonly design: ReportDesign;
  private readonly context: QuestionContext;

  constructor(
    asked: ReportDesign,
    now: QuestionContext,
    private readonly ask: AskFigures,
  ) {
    const context = onItsDay(asked.question, now);
    this.context = context;
    const { design, leftOut } = knownReport(asked, context.catalogue);
    this.design = design;
    for (const part of leftOut) this.leftOut.set(JSON.stringify(part), part);
    this.groups = design.question.groups ?? [];
    this.byKey = new Map(design.figures.map((figure) => [figure.key, figure]));
    const measures = design.figures.flatMap((figure) => ('measure' in figure ? [figure.measure] : []));
    this.measures = [...new Map(measures.map((measure) => [JSON.stringify(measure), measure])).values()];
    // Of what the person does not see there is no figure, not even nought.
    this.known = this.measures.map(
      (measure) =>
        runnable({ ...subjectOf(design.question), measures: [measure] }, context).leftOut.length === 0,
    );
    for (const figure of design.figures) {
      if (!('formula' in figure)) continue;
      const read = readFormula(figure.formula);
      if (!isFormulaFault(read)) this.formulas.set(figure.key, read);
    }
  }

  async answer(): Promise<ReportAnswer> {
    const { design, context } = this;
    const compared = comparedIn(design);
    this.firsts = await this.chooseFirsts();
    await Promise.all((['now', ...compared] as At[]).map((at) => this.find(at)));
    const rows = await this.rows();
    return {
      splits: this.splits,
      rows: rows.shown,
      names: this.names,
      leftOut: [...this.leftOut.values()],
      unrated: this.unrated,
      isCut: this.isCut,
      dropped: rows.dropped,
      ...(design.period ? { period: daysOf(design.period, context) } : {}),
      compared: Object.fromEntries(
        compared.map((at) => [at, design.period && daysCompared(design.period, at, context)]),
      ),
    };
  }

  private get isAdditive(): boolean {
    const { object } = this.design.question;
    const all = [...this.groups, ...(this.design.split ? [this.design.split] : [])];
    return this.measures.every(isAdditive) && !canOverlap(this.context.catalogue, object, all);
  }

  private question(at: At, groups: readonly Grouping[], where?: Condition): Question {
    const asked = askedBy(this.design, this.context, at === 'now' ? undefined : at);
    const both = allOf(asked.where, where);
    return {
      ...asked,
      ...(both ? { where: both } : {}),
      groups,
      measures: [{ as: 'count' }, ...this.measures],
    };
  }

  private async asked(question: Question, at: At): Promise<FiguresAnswer> {
    const answer = await this.ask(question);
    for (const part of answer.leftOut) this.leftOut.set(JSON.stringify(part), part);
    for (const [object, names] of Object.entries(answer.names))
      this.names = { ...this.names, [object]: { ...this.names[object as keyof Names], ...names } };
    if (at === 'now') this.unrated = Math.max(this.unrated, answer.unrated);
    this.isCut ||= answer.isCut;
    return answer;
  }

  /** Lets the questions themselves find the first groups, where they are by a measure of records: there may be any number. */
  private async chooseFirsts(): Promise<Report['firsts']> {
    const { top: count, order, keep = [] } = this.design;
    const [outermost] = this.groups;
    const figure = order && this.byKey.get(order.figure);
    const { catalogue } = this.context;
    const type = outermost && fieldAt(catalogue, this.design.question.object, outermost.field)?.type;
    if (count === undefined || !figure || !('measure' in figure) || keep.length > 0) return undefined;
    if (figure.measure.as === 'share') return undefined;
    if (!type || isDated(type) || !isCountedApart(type)) return undefined;
    const measure =
      1 + this.measures.findIndex((each) => JSON.stringify(each) === JSON.stringify(figure.measure));
    const empty: Condition = { field: outermost.field, is: 'isEmpty' };
    const [{ rows }, counted] = await Promise.all([
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
            { as: 'distinct', of: outermost.field },
            { as: 'count', where: empty },
          ],
        },
        'now',
      ),
    ]);
    if (rows.length === 0) return undefined;
    const [different, without] = counted.rows[0].figures;
    const groups = (different ?? 0) + (without ? 1 : 0);
    return { keys: rows.map(({ keys: [key] }) => key), beyond: Math.max(0, groups - rows.length) };
  }

  /** The condition that records are in the first groups; nothing where all groups are wanted. */
  private amongFirsts(): Condition | undefined {
    if (!this.firsts) return undefined;
    return {
      join: 'any',
      of: this.firsts.keys.map((key) => this.held(key)).filter((each) => each !== undefined),
    };
  }

  /** The condition that records are in a group of the outermost. */
  private held(key: FieldValue): Condition | undefined {
    const { catalogue, calendar } = this.context;
    return keyCondition(catalogue, this.design.question.object, this.groups[0], key, calendar);
  }

  /** Finds the figures of a period, at every level of the groups, split and not. */
  private async find(at: At): Promise<void> {
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
    if (split && at === 'now') {
      const { rows } = await this.asked({ ...this.question(at, [split]), measures: [{ as: 'count' }] }, at);
      this.splits = rows.map(({ keys: [key] }) => key);
    }
    const depths = this.groups.map((_, index) => index + 1);
    const deepest = this.groups.length;
    if (this.isAdditive && !this.firsts) {
      const answer = await this.asked(this.question(at, [...this.groups, ...(split ? [split] : [])]), at);
      put(answer, deepest, split !== undefined);
      this.addUp(cells, split !== undefined);
      if (!answer.isCut) return;
      // What was cut off is in no sum: the levels above are asked for themselves.
    }
    // No level needs another: they are asked side by side.
    await Promise.all(
      [0, ...depths].flatMap((depth) => {
        const groups = this.groups.slice(0, depth);
        const where = depth > 0 ? this.amongFirsts() : undefined;
        const ask = async (by: readonly Grouping[], isSplit: boolean) =>
          put(await this.asked(this.question(at, by, where), at), depth, isSplit);
        return [ask(groups, false), ...(split ? [ask([...groups, split], true)] : [])];
      }),
    );
  }

  /** The figures of the levels above, from those of the innermost groups. */
  private addUp(cells: Map<string, Cell>, isSplit: boolean): void {
    const found = [...cells.entries()];
    if (!cells.has(nameOf([]))) cells.set(nameOf([]), { count: 0, measured: this.measures.map(() => null) });
    for (const [name, { count, measured }] of found) {
      const [keys, split] = JSON.parse(name) as [FieldValue[], FieldValue?];
      for (let depth = 0; depth <= keys.length; depth += 1) {
        const at = [nameOf(keys.slice(0, depth)), ...(isSplit ? [nameOf(keys.slice(0, depth), split)] : [])];
        for (const above of at.filter((each) => each !== name)) {
          const cell = cells.get(above) ?? { count: 0, measured: this.measures.map(() => null) };
          cells.set(above, added(cell, { count, measured }));
        }
      }
    }
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

  /** What a figure comes to for a group in a period. */
  private value(key: string, at: At, keys: readonly FieldValue[], split?: FieldValue): number | null {
    const figure = this.byKey.get(key);
    if (!figure) return null;
    if ('measure' in figure)
      return this.measured(figure.measure, this.cells.get(at)?.get(nameOf(keys, split)));
    if ('formula' in figure) {
      const formula = this.formulas.get(key);
      return formula ? evaluate(formula, (other) => this.value(other, at, keys, split)) : null;
    }
    if ('running' in figure) return this.running.get(`${key} ${at}`)?.get(nameOf(keys, split)) ?? null;
    if ('shareOf' in figure) {
      const own = this.value(figure.shareOf, at, keys, split);
      // Of something split, the group is what is split.
      const above = figure.in === 'all' ? [] : split === undefined ? keys.slice(0, -1) : keys;
      const whole = this.value(figure.shareOf, at, above);
      return own === null || whole === null || whole === 0 ? null : own / whole;
    }
    if ('past' in figure) return this.value(figure.past, figure.of, keys, split);
    const now = this.value(figure.change, 'now', keys, split);
    const then = this.value(figure.change, figure.against, keys, split);
    if (now === null || then === null) return null;
    if (figure.as === 'amount') return now - then;
    return then === 0 ? null : (now - then) / Math.abs(then);
  }

  /** A measure of what was found. The count and the sum of no records are 0. */
  private measured(measure: Measure, cell: Cell | undefined): number | null {
    const index = this.measures.findIndex((each) => JSON.stringify(each) === JSON.stringify(measure));
    if (!this.known[index]) return null;
    const found = cell?.measured[index] ?? null;
    return found === null && ['count', 'distinct', 'sum'].includes(measure.as) ? 0 : found;
  }

  /** The groups within a group, in the order of the report; periods without records too. */
  private within(keys: readonly FieldValue[], level: readonly (readonly FieldValue[])[]): FieldValue[][] {
    const depth = keys.length;
    const grouping = this.groups[depth];
    const found = level
      .filter((each) => nameOf(each.slice(0, depth)) === nameOf(keys))
      .map((each) => [...each]);
    const type = fieldAt(this.context.catalogue, this.design.question.object, grouping.field)?.type;
    const { period, order } = this.design;
    if (type && isDated(type)) {
      const days = found.map((each) => each[depth]).filter((key) => key !== null);
      const span =
        period?.field === grouping.field
          ? daysOf(period, this.context)
          : days.length > 0
            ? { from: String(days[0]), to: periodOf('day', String(days.at(-1)), this.context.calendar).to }
            : undefined;
      const all = span ? periodsWithin(span, grouping.by, this.context) : [];
      const there = new Set(days);
      if (all.length <= MOST_PERIODS) {
        found.push(...all.filter((day) => !there.has(day)).map((day) => [...keys, day]));
        found.sort((a, b) => inTime(a[depth], b[depth]));
      }
    }
    if (order) {
      const by = new Map(found.map((each) => [each, this.value(order.figure, 'now', each)]));
      found.sort((a, b) => inSize(by.get(a) ?? null, by.get(b) ?? null, order.descending ?? false));
    }
    return found;
  }

  /** Every level's groups, in the order of their keys. */
  private levels(): FieldValue[][][] {
    const names = [...new Set([...this.cells.values()].flatMap((cells) => [...cells.keys()]))];
    const keys = names
      .map((name) => JSON.parse(name) as FieldValue[][])
      .filter((name) => name.length === 1)
      .map(([own]) => own);
    return [0, ...this.groups.map((_, index) => index + 1)].map((depth) =>
      keys.filter((own) => own.length === depth),
    );
  }

  private async rows(): Promise<{ shown: ReportRow[]; dropped: number }> {
    const { keep = [], top } = this.design;
    const levels = this.levels();
    const shown: ReportRow[] = [];
    let dropped = 0;
    const children = new Map<string, FieldValue[][]>();
    const isKept = (own: FieldValue[]): boolean => {
      if (own.length === this.groups.length) {
        const kept = keep.every((test) => meets(this.value(test.figure, 'now', own), test));
        if (!kept) dropped += 1;
        return kept;
      }
      const all = this.within(own, levels[own.length + 1]);
      const inside = all.filter(isKept);
      children.set(nameOf(own), inside);
      // A period without anything in it stays; a group all of whose own were left out goes with them.
      return inside.length > 0 || all.length === 0;
    };
    isKept([]);
    const firsts = children.get(nameOf([])) ?? [];
    const rest = top !== undefined && firsts.length > top ? firsts.slice(top) : [];
    const beyond = this.firsts?.beyond ?? rest.length;
    if (rest.length > 0) children.set(nameOf([]), firsts.slice(0, top));
    this.addRunning(children);
    const write = (own: FieldValue[]) => {
      shown.push(this.rowOf(own));
      for (const inner of children.get(nameOf(own)) ?? []) write(inner);
    };
    write([]);
    if (beyond > 0) shown.push({ ...(await this.restOf(rest, firsts.slice(0, top))), rest: beyond });
    return { shown, dropped };
  }

  /** Adds figures up from group to group, within each group and in the order they are shown in. */
  private addRunning(children: ReadonlyMap<string, FieldValue[][]>): void {
    const times: At[] = ['now', ...comparedIn(this.design)];
    for (const figure of this.design.figures) {
      if (!('running' in figure)) continue;
      for (const at of times) {
        const sums = new Map<string, number | null>();
        this.running.set(`${figure.key} ${at}`, sums);
        for (const split of [undefined, ...this.splits]) {
          sums.set(nameOf([], split), this.value(figure.running, at, [], split));
          for (const siblings of children.values()) {
            let sum: number | null = null;
            for (const own of siblings) {
              const value = this.value(figure.running, at, own, split);
              if (value !== null) sum = (sum ?? 0) + value;
              sums.set(nameOf(own, split), sum);
            }
          }
        }
      }
    }
  }

  private rowOf(keys: FieldValue[]): ReportRow {
    const figuresOf = (split?: FieldValue) => ({
      count: this.cells.get('now')?.get(nameOf(keys, split))?.count ?? 0,
      figures: this.design.figures.map(({ key }) => this.value(key, 'now', keys, split)),
    });
    return {
      keys,
      ...figuresOf(),
      ...(this.splits.length > 0 ? { split: this.splits.map((split) => figuresOf(split)) } : {}),
    };
  }

  /** What is beyond the first groups, put together; asked for anew where it is more than their sum. */
  private async restOf(rest: FieldValue[][], first: FieldValue[][]): Promise<ReportRow> {
    // A key that no group has: the row stands beside them.
    const own: FieldValue[] = ['@rest'];
    for (const [at, cells] of this.cells) {
      for (const split of [undefined, ...this.splits]) {
        const of = rest.map((keys) => cells.get(nameOf(keys, split))).filter((cell) => cell !== undefined);
        const none = { count: 0, measured: this.measures.map(() => null) };
        cells.set(nameOf(own, split), of.reduce<Cell>(added, none));
      }
      if (!this.firsts && (this.isAdditive || at !== 'now')) continue;
      const beyond: Condition = {
        join: 'none',
        of: first.map(([key]) => this.held(key)).filter((each) => each !== undefined),
      };
      const { split } = this.design;
      for (const groups of split ? [[], [split]] : [[]])
        for (const { keys, figures } of (await this.asked(this.question(at, groups, beyond), at)).rows) {
          const [count, ...measured] = figures;
          cells.set(nameOf(own, groups.length > 0 ? (keys[0] ?? null) : undefined), {
            count: count ?? 0,
            measured,
          });
        }
    }
    for (const figure of this.design.figures) {
      if (!('running' in figure)) continue;
      const last = first.at(-1);
      for (const split of [undefined, ...this.splits]) {
        const sums = this.running.get(`${figure.key} now`);
        const before = last ? (sums?.get(nameOf(last, split)) ?? 0) : 0;
        sums?.set(nameOf(own, split), before + (this.value(figure.running, 'now', own, split) ?? 0));
      }
    }
    return { ...this.rowOf(own), keys: [] };
  }
}

function added(a: Cell, b: Cell): Cell {
  return {
    count: a.count + b.count,
    measured: a.measured.map((value, index) => {
      const other = b.measured[index];
      return value === null ? other : other === null ? value : value + other;
    }),
  };
}

/** By time, what has none last. */
function inTime(a: FieldValue, b: FieldValue): number {
  if (a === b) return 0;
  if (a === null) return 1;
  if (b === null) return -1;
  return String(a) < String(b) ? -1 : 1;
}

/** By size, what is nothing last. */
function inSize(a: number | null, b: number | null, descending: boolean): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  return descending ? b - a : a - b;
}

/**
 * Answers a report: every figure of every group, of the groups above, and of all.
 * @param ask answers the questions that it is made of, and sees to what the person may see.
 */
export function answerReport(
  design: ReportDesign,
  context: QuestionContext,
  ask: AskFigures,
): Promise<ReportAnswer> {
  return new Report(design, context, ask).answer();
}
