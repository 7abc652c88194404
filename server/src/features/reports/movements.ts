import { Injectable } from '@nestjs/common';
import {
  allOf,
  ask,
  convert,
  endOfDay,
  fieldsIn,
  fieldAt,
  holds,
  looksAround,
  movementsOf,
  movementSteps,
  pathInWords,
  rateOn,
  startOfDayIn,
  together,
  unknownInPast,
  type Actor,
  type AnyRecord,
  type Day,
  type FieldValue,
  type LoggedRecord,
  type Movement,
  type MovementAnswer,
  type MovementPart,
  type MovementQuestion,
  type Names,
  type QuestionContext,
  type Rate,
} from '@zawn/core';
import { pastChanges } from '../../kernel/changes/past-changes';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Database } from '../../platform/database/database';
import { invalidInput } from '../../platform/http/problem';

/** Deals named in a step; the figure counts all of them. */
const MOST_NAMED = 200;
/** Deals changed or deleted in a period that are looked at. */
const MOST_CHANGED = 200_000;
/** What a movement is made of beside the fields of its conditions. */
const NEEDED = ['outcome', 'value', 'currency', 'closeOn', 'owner'] as const;

const OPEN = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;

/** How the open pipeline moved between two days, read from the change log. */
@Injectable()
export class Movements {
  constructor(
    private readonly gate: Gate,
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  /** @throws Problem `invalid-input` where the past cannot tell what is asked, or the days are none. */
  async answer(actor: Actor, asked: MovementQuestion): Promise<MovementAnswer> {
    const context = await this.gate.context(actor);
    this.check(asked, context);
    const { where, by } = asked;
    const start = startOfDayIn(context.timeZone, asked.from);
    const end = endOfDay(context.timeZone, asked.to);
    const rates = await this.organisation.rates();
    const teams = new Map((await this.organisation.people()).map(({ id, team }) => [id, team]));
    const rules = {
      isIn: (deal: AnyRecord) => isMeant(deal, where, context, rates),
      keyOf: (deal: AnyRecord): FieldValue =>
        by === 'team' ? (teams.get(Number(deal.owner)) ?? null) : by ? (deal[by] ?? null) : null,
      atStart: worthOn(asked.from, rates, context),
      atEnd: worthOn(asked.to, rates, context),
    };
    const fields = [...new Set([...NEEDED, ...(by && by !== 'team' ? [by] : []), ...fieldsIn(where)])];
    const changed = await this.changedSince(actor, asked.from, start, fields);
    const steady = await this.openUnchanged(actor, asked, new Set(changed.ids));
    const groups = by ? movementsOf(changed.deals, steady, end, rules) : [];
    const all = together(movementsOf(changed.deals, steady, end, { ...rules, keyOf: () => null }));
    const parts = { all: shortened(all), groups: groups.map(shortened) };
    return { asked, from: start, to: end, ...parts, names: await this.names(actor, parts) };
  }

  private check({ where, from, to }: MovementQuestion, context: QuestionContext): void {
    if (from > to) throw invalidInput([{ field: 'to', message: 'The last day lies before the first' }]);
    if (to > context.today) throw invalidInput([{ field: 'to', message: 'The last day lies in the future' }]);
    const hidden = NEEDED.filter((field) => !fieldAt(context.catalogue, 'deal', field));
    if (hidden.length > 0)
      throw invalidInput([
        { field: 'where', message: 'You do not see enough of deals to be told how they moved' },
      ]);
    if (looksAround(where))
      throw invalidInput([
        {
          field: 'where',
          message: 'A movement looks at one deal by itself: compare with a value or another field',
        },
      ]);
    const unknown = unknownInPast(context.catalogue, where);
    if (unknown.length > 0)
      throw invalidInput(
        unknown.map((path) => ({
          field: 'where',
          message: `The past of deals does not tell “${pathInWords(context.catalogue, 'deal', path) ?? path}”: it knows only the fields of the deal itself`,
        })),
      );
  }

  /** The deals within reach that were changed since a moment, with their changes. */
  private async changedSince(
    actor: Actor,
    day: Day,
    start: string,
    fields: readonly string[],
  ): Promise<{ ids: number[]; deals: LoggedRecord[] }> {
    const { byRecord: changes, count } = await pastChanges(
      this.database.reading.manager,
      fields,
      // Written out, so that the index of just these is used, which holds all that is read.
      { where: `c.object = 'deal' AND c.at >= :start`, parameters: { start } },
      MOST_CHANGED + 1,
    );
    if (count > MOST_CHANGED)
      throw invalidInput([
        { field: 'from', message: 'More happened since then than can be told at once. Begin later' },
      ]);
    const ids = [...changes.keys()];
    // What was changed since then was last changed since then.
    const lately = ask('deal', { field: 'updatedAt', is: 'onOrAfter', value: day });
    const kept = await this.gate.few<AnyRecord>(actor, lately, fields);
    const gone = await this.gate.deleted(actor, 'deal', start, MOST_CHANGED);
    const of = (now: AnyRecord, isDeleted: boolean): LoggedRecord => ({
      now,
      isDeleted,
      changes: changes.get(now.id) ?? [],
    });
    return {
      ids,
      deals: [
        ...kept.filter(({ id }) => changes.has(id)).map((deal) => of(deal, false)),
        ...gone.map((deal) => of(deal, true)),
      ],
    };
  }

  /** The open deals meant that nothing was done to since. */
  private async openUnchanged(
    actor: Actor,
    { where, by }: MovementQuestion,
    changed: ReadonlySet<number>,
  ): Promise<AnyRecord[]> {
    const fields = [...new Set([...NEEDED, ...(by && by !== 'team' ? [by] : [])])] as never[];
    const open = await this.gate.few<AnyRecord>(actor, ask('deal', allOf(where, OPEN)), fields);
    return open.filter(({ id }) => !changed.has(id));
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

/** Whether a deal is open and as asked, as it stood at a moment. */
function isMeant(
  deal: AnyRecord,
  where: MovementQuestion['where'],
  context: QuestionContext,
  rates: readonly Rate[],
): boolean {
  if (deal.outcome !== 'open') return false;
  const around = { find: () => undefined, linking: () => [], rates: [...rates] };
  return !where || holds(where, 'deal', deal, context, around);
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
  const known = new Map<FieldValue, number | undefined>();
  const rateOf = (currency: FieldValue) => {
    if (!known.has(currency)) known.set(currency, rateOn(rates, reportingCurrency, String(currency), day));
    return known.get(currency);
  };
  return ({ value, currency }) => {
    if (value === null || value === undefined) return 0;
    if (currency === reportingCurrency) return Number(value);
    const rate = rateOf(currency);
    return rate === undefined ? 0 : convert(Number(value), rate);
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
