import { fieldAt, type FieldValue } from '../../kernel/catalogue';
import {
  isDated,
  onItsDay,
  type Grouping,
  type LeftOut,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { type FiguresAnswer, type Names } from '../../kernel/questions/api';
import { periodOf, type Period } from '../../platform/time';
import { FiguresFound, nameOf, type Among } from './figures-found';
import { evaluate, isFormulaFault, readFormula, type Expression } from './formula';
import { daysCompared, MOST_PERIODS, periodsWithin, type At } from './periods-within';
import {
  type ComparedPeriod,
  type FigureTest,
  type ReportDesign,
  type ReportFigure,
  type ReportRow,
} from './report';
import { besideKeys } from './other-records';
import { comparedIn, isMeasured, knownReport, reportParts } from './parts';
import { askedBy, daysOf } from './report-question';

/** What of a report a question is about. */
export interface AskedOf {
  /** Which of its parts, see `reportParts`. */
  part: number;
  at: At;
  /** Only what is in some of the outermost groups, or in none of them. */
  among?: Among;
}

/** Answers a question in figures, which is asked for something of a report. */
export type AskFigures = (question: Question, of: AskedOf) => Promise<FiguresAnswer>;

/** Records that a question is about, so many of which have an amount in a currency without a rate. */
export interface UnratedRecords {
  question: Question;
  count: number;
}

/** The answer to a report. */
export interface ReportAnswer {
  /** The keys every figure is split by, in their order; empty where nothing is split. */
  splits: FieldValue[];
  /** All records first, then each group in front of those within it. */
  rows: ReportRow[];
  names: Names;
  leftOut: LeftOut[];
  /** Records whose amount is in no figure, as its currency has no rate, with the questions that they answer. */
  unrated: UnratedRecords[];
  /** There are more groups than are answered. */
  isCut: boolean;
  /** Innermost groups left out, as their figures are not as wanted. */
  dropped: number;
  /** The days it is about, and those it is compared with; half-open. */
  period?: Period;
  compared: Partial<Record<ComparedPeriod, Period>>;
}

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

/** A report on its way: what was found, and what is made of it. */
class Report {
  private readonly groups: readonly Grouping[];
  /** What was found of the report's own records. */
  private readonly own: FiguresFound;
  /** What was found of others beside them, by what they are. */
  private readonly others = new Map<string, FiguresFound>();
  private readonly formulas = new Map<string, Expression>();
  private readonly byKey: ReadonlyMap<string, ReportFigure>;
  private readonly leftOut = new Map<string, LeftOut>();
  private readonly running = new Map<string, Map<string, number | null>>();
  private names: Names = {};
  private readonly unrated = new Map<ReportDesign, number>();
  private isCut = false;
  private splits: FieldValue[] = [];

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
    this.groups = design.question.groups ?? [];
    this.byKey = new Map(design.figures.map((figure) => [figure.key, figure]));
    const { parts, leftOut: unknown } = reportParts(design, context.catalogue);
    leftOut.push(...unknown);
    const [own, ...others] = parts.map(
      (part, index) =>
        new FiguresFound(part.design, part.measures, context, (question, at, among) =>
          this.answered(question, { part: index, at, ...(among ? { among } : {}) }, part.design),
        ),
    );
    this.own = own;
    for (const [index, found] of others.entries())
      this.others.set(JSON.stringify(parts[index + 1].beside), found);
    for (const part of leftOut) this.leftOut.set(JSON.stringify(part), part);
    for (const figure of design.figures) {
      if (!('formula' in figure)) continue;
      const read = readFormula(figure.formula);
      if (!isFormulaFault(read)) this.formulas.set(figure.key, read);
    }
  }

  async answer(): Promise<ReportAnswer> {
    const { design, context } = this;
    const compared = comparedIn(design);
    const all = [this.own, ...this.others.values()];
    const first = design.order && this.byKey.get(design.order.figure);
    // Where figures of others stand beside, or figures decide which groups are kept, all groups are found first.
    if (first && isMeasured(first) && this.others.size === 0 && !design.keep?.length)
      await this.own.chooseFirsts(first.measure);
    await Promise.all((['now', ...compared] as At[]).flatMap((at) => all.map((found) => found.find(at))));
    const splits = await Promise.all(all.map((found) => found.splits()));
    this.splits = [...new Set(splits.flat())];
    const rows = await this.rows();
    return {
      splits: this.splits,
      rows: rows.shown,
      names: this.names,
      leftOut: [...this.leftOut.values()],
      unrated: [...this.unrated]
        .filter(([, count]) => count > 0)
        .map(([of, count]) => ({ question: askedBy(of, context), count })),
      isCut: this.isCut,
      dropped: rows.dropped,
      ...(design.period ? { period: daysOf(design.period, context) } : {}),
      compared: Object.fromEntries(
        compared.map((at) => [at, design.period && daysCompared(design.period, at, context)]),
      ),
    };
  }

  /** Asks a question, and takes note of what is told beside its figures. */
  private async answered(question: Question, asked: AskedOf, of: ReportDesign): Promise<FiguresAnswer> {
    const answer = await this.ask(question, asked);
    for (const part of answer.leftOut) this.leftOut.set(JSON.stringify(part), part);
    for (const [object, names] of Object.entries(answer.names))
      this.names = { ...this.names, [object]: { ...this.names[object as keyof Names], ...names } };
    if (asked.at === 'now') this.unrated.set(of, Math.max(this.unrated.get(of) ?? 0, answer.unrated));
    this.isCut ||= answer.isCut;
    return answer;
  }

  /** What a figure comes to for a group in a period. */
  private value(key: string, at: At, keys: readonly FieldValue[], split?: FieldValue): number | null {
    const figure = this.byKey.get(key);
    if (!figure) return null;
    if (isMeasured(figure)) {
      const { measure, beside } = figure;
      if (!beside) return this.own.measured(measure, at, keys, split);
      const place = besideKeys(this.design, beside, keys, split);
      if (!place) return null;
      const found = this.others.get(JSON.stringify(beside));
      return found?.measured(measure, at, place.keys, place.split) ?? null;
    }
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
    const all = [this.own, ...this.others.values()];
    const names = [...new Set(all.flatMap((found) => found.names()))];
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
    const beyond = this.own.beyond ?? rest.length;
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
      count: this.own.count('now', keys, split),
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
    for (const found of [this.own, ...this.others.values()])
      await found.putRest(own, rest, first, this.splits);
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
