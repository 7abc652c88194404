import { Injectable } from '@nestjs/common';
import {
  addDays,
  allOf,
  ask,
  converterAt,
  emptyMovement,
  endOfDay,
  fieldAt,
  fieldOfGroup,
  fieldsThen,
  holds,
  inARow,
  judgedToday,
  leftOutInWords,
  looksAround,
  metThen,
  movementsOf,
  movementSteps,
  periodsWithin,
  rateOn,
  runnable,
  startOfDayIn,
  stoodBefore,
  together,
  type Actor,
  type AnyRecord,
  type Condition,
  type Day,
  type FieldValue,
  type LoggedRecord,
  type Movement,
  type MovementAnswer,
  type MovementGroup,
  type MovementPart,
  type MovementQuestion,
  type MovementSpan,
  type Names,
  type QuestionContext,
  type Rate,
} from '@zawn/core';
import { changesByRecord, pastChangesStatement } from '../../kernel/changes/past-changes';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Database } from '../../platform/database/database';
import { invalidInput } from '../../platform/http/problem';

/** Deals named in a step; the figure counts all of them. */
const MOST_NAMED = 200;
/** Deals changed or deleted in a period that are looked at. */
const MOST_CHANGED = 200_000;
/** What a movement is made of beside the fields of its conditions. */
const NEEDED = ['outcome', 'value', 'currency'] as const;

/** The same with the field of the deal that it is grouped by. */
function neededFor(by: MovementGroup | undefined): string[] {
  const field = by && fieldOfGroup(by);
  return [...NEEDED, ...(field ? [field.split('.')[0]] : [])];
}

const OPEN = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;

/** How the open pipeline moved between two days, read from the change log. */
@Injectable()
export class Movements {
  constructor(
    private readonly gate: Gate,
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  /** @throws Problem `invalid-input` where the days are none, or what is asked cannot be told of one deal by itself. */
  async answer(actor: Actor, asked: MovementQuestion): Promise<MovementAnswer> {
    const context = await this.gate.context(actor);
    this.check(asked, context);
    const { where, by } = asked;
    const spans = spansOf(asked, context, await this.organisation.rates());
    const start = startOfDayIn(context.timeZone, asked.from);
    const teams = new Map((await this.organisation.people()).map(({ id, team }) => [id, team]));
    const keyOf = (deal: AnyRecord, span: MovementSpan): FieldValue => {
      if (by === undefined) return null;
      if (by === 'month') return span.from;
      return by === 'team' ? (teams.get(Number(deal.owner)) ?? null) : (deal[by] ?? null);
    };
    const fields = [...new Set([...neededFor(by), ...fieldsThen(context.catalogue, where)])];
    // Each is asked by itself, and most of it in threads.
    const earlier = { field: 'updatedAt', is: 'before', value: asked.from } as const;
    const [changed, steady] = await Promise.all([
      this.changedSince(actor, asked.from, start, fields),
      this.gate.few<AnyRecord>(actor, ask('deal', allOf(where, OPEN, earlier)), fields, 'many'),
    ]);
    const isMeant = await this.judge(actor, where, changed, context);
    const pasts = changed.map(stoodBefore);
    const found = by ? movementsOf(pasts, steady, spans, { isIn: isMeant, keyOf }) : [];
    const ofMonth = ({ from }: MovementSpan) => found.find(({ key }) => key === from) ?? emptyMovement(from);
    const groups = by === 'month' ? spans.map(ofMonth) : found;
    const all =
      by === 'month'
        ? inARow(groups)
        : together(movementsOf(pasts, steady, spans, { isIn: isMeant, keyOf: () => null }));
    const parts = { all: shortened(all), groups: groups.map(shortened) };
    const asToday = judgedToday(context.catalogue, where);
    return {
      asked,
      from: start,
      to: spans[spans.length - 1].end,
      ...parts,
      asToday,
      names: await this.names(actor, parts),
    };
  }

  private check({ where, from, to, by }: MovementQuestion, context: QuestionContext): void {
    if (from > to) throw invalidInput([{ field: 'to', message: 'The last day lies before the first' }]);
    if (to > context.today) throw invalidInput([{ field: 'to', message: 'The last day lies in the future' }]);
    const hidden = neededFor(by).filter((field) => !fieldAt(context.catalogue, 'deal', field));
    if (hidden.length > 0)
      throw invalidInput([
        { field: 'where', message: 'You do not see enough of deals to be told how they moved' },
      ]);
    const { leftOut } = runnable({ ...ask('deal'), ...(where ? { where } : {}) }, context);
    if (leftOut.length > 0)
      throw invalidInput(leftOut.map((part) => ({ field: 'where', message: leftOutInWords(part) })));
    if (looksAround(where))
      throw invalidInput([
        {
          field: 'where',
          message: 'A movement looks at one deal by itself: compare with a value or another field',
        },
      ]);
  }

  /** The deals within reach that were changed since a moment, with their changes. */
  private async changedSince(
    actor: Actor,
    day: Day,
    start: string,
    fields: readonly string[],
  ): Promise<LoggedRecord[]> {
    // What was changed since then was last changed since then.
    const lately = ask('deal', { field: 'updatedAt', is: 'onOrAfter', value: day });
    const [rows, kept, gone] = await Promise.all([
      this.database.reader.many(
        pastChangesStatement(
          this.database.reading.manager,
          fields,
          // Written out, so that the index of just these is used, which holds all that is read.
          { where: `c.object = 'deal' AND c.at >= :start`, parameters: { start } },
          MOST_CHANGED + 1,
        ),
      ),
      this.gate.few<AnyRecord>(actor, lately, fields, 'many'),
      this.gate.deleted(actor, 'deal', start, MOST_CHANGED),
    ]);
    if (rows.length > MOST_CHANGED)
      throw invalidInput([
        { field: 'from', message: 'More happened since then than can be told at once. Begin later' },
      ]);
    const changes = changesByRecord(rows);
    // Of some nothing was changed that is looked at.
    const of = (isDeleted: boolean) => (now: AnyRecord) => ({
      now,
      isDeleted,
      changes: changes.get(now.id) ?? [],
    });
    return [...kept.map(of(false)), ...gone.map(of(true))];
  }

  /**
   * Whether a deal as it stood is meant: open, and as asked. What its log cannot tell is looked up once, as it is today.
   */
  private async judge(
    actor: Actor,
    where: Condition | undefined,
    records: readonly LoggedRecord[],
    context: QuestionContext,
  ): Promise<(deal: AnyRecord) => boolean> {
    if (!where) return ({ outcome }) => outcome === 'open';
    const today = judgedToday(context.catalogue, where);
    const idsOf = (isGone: boolean) =>
      records.filter(({ isDeleted }) => isDeleted === isGone).map(({ now }) => now.id);
    const [kept, gone] =
      today.length === 0
        ? [[], []]
        : await Promise.all([
            this.gate.meeting(actor, 'deal', today, idsOf(false)),
            this.gate.meeting(actor, 'deal', today, idsOf(true), { kept: 'deleted' }),
          ]);
    const meeting = new Map(today.map((part, index) => [part, new Set([...kept[index], ...gone[index]])]));
    const around = {
      find: () => undefined,
      linking: () => [],
      rates: [...(await this.organisation.rates())],
    };
    return (deal) =>
      deal.outcome === 'open' &&
      metThen(where, (part) => meeting.get(part)?.has(deal.id) ?? holds(part, 'deal', deal, context, around));
  }

  private async names(
    actor: Actor,
    { all, groups }: { all: MovementPart; groups: readonly MovementPart[] },
  ): Promise<Names> {
    const deals = [all, ...groups].flatMap(({ steps }) =>
      movementSteps.flatMap((step) => steps[step].entries.map(({ deal }) => deal)),
    );
    return { deal: await this.gate.namesOf(actor, 'deal', [...new Set(deals)]) };
  }
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

/** A movement with the largest of each step's deals. */
const shortened = ({ steps, ...rest }: Movement): MovementPart => ({
  ...rest,
  steps: Object.fromEntries(
    movementSteps.map((step) => {
      const { value, entries } = steps[step];
      const largest = [...entries].sort((a, b) => Math.abs(b.value) - Math.abs(a.value)).slice(0, MOST_NAMED);
      return [step, { value, count: entries.length, entries: largest }];
    }),
  ) as MovementPart['steps'],
});
