import { join } from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  addDays,
  allOf,
  ask,
  endOfDay,
  fieldAt,
  fieldOfGroup,
  fieldsThen,
  judgedToday,
  leftOutInWords,
  looksAround,
  movementSteps,
  runnable,
  startOfDayIn,
  type Actor,
  type AnyRecord,
  type Condition,
  type MovementAnswer,
  type MovementGroup,
  type MovementPart,
  type MovementQuestion,
  type Names,
  type Question,
  type QuestionContext,
} from '@zawn/core';
import { dealChanges, type DealChanges } from '../../kernel/changes/past-changes';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Database } from '../../platform/database/database';
import { type ThreadWork } from '../../platform/database/reading-thread';
import { invalidInput } from '../../platform/http/problem';
import { movementPart, partsTogether, type MovedPart, type PartGiven } from './movement-part';

const MOVEMENT: ThreadWork<PartGiven, MovedPart | undefined> = {
  worker: join(__dirname, 'movement-worker.js'),
  work: movementPart,
};

/** Deals are looked at in so many parts, each in a thread of its own. */
const PARTS = 2;
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
    const { where, by, from, to } = asked;
    const start = startOfDayIn(context.timeZone, from);
    const end = endOfDay(context.timeZone, to);
    const fields = [...new Set([...neededFor(by), ...fieldsThen(context.catalogue, where)])];
    const asToday = judgedToday(context.catalogue, where);
    // What was changed since then was last changed since then.
    const lately = ask(
      'deal',
      { field: 'updatedAt', is: 'onOrAfter', value: from },
      // What came later had no part in it.
      { field: 'createdAt', is: 'before', value: addDays(to, 1) },
    );
    const earlier = { field: 'updatedAt', is: 'before', value: from } as const;
    const [changed, steady, deleted, rates, people] = await Promise.all([
      this.gate.fewInParts(actor, lately, fields, PARTS),
      this.gate.fewInParts(actor, ask('deal', allOf(where, OPEN, earlier)), fields, PARTS),
      this.gate.deleted(actor, 'deal', start, MOST_CHANGED),
      this.organisation.rates(),
      this.organisation.people(),
    ]);
    const gone = deleted.filter(({ createdAt }) => createdAt <= end);
    const meeting = await this.meetingToday(actor, asToday, lately, gone);
    const teams = new Map(people.map(({ id, team }) => [id, team]));
    const of = { asked, context, rates, teams, fields, meeting, most: MOST_CHANGED / PARTS };
    const moved = await Promise.all(
      Array.from({ length: PARTS }, (_, part) =>
        this.database.reader.made(MOVEMENT, {
          ...of,
          changes: this.changesSince(start, end, fields, part),
          changed: changed[part],
          steady: steady[part],
          gone: gone.filter(({ id }) => id % PARTS === part),
        }),
      ),
    );
    const told = moved.filter((part) => part !== undefined);
    if (told.length < PARTS)
      throw invalidInput([
        { field: 'from', message: 'More happened since then than can be told at once. Begin later' },
      ]);
    const parts = partsTogether(told);
    return {
      asked,
      from: start,
      to: end,
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

  /** What was done since a moment to a part of the deals that were there at another, whoever may see them. */
  private changesSince(start: string, end: string, fields: readonly string[], part: number): DealChanges[] {
    return dealChanges(
      this.database.reading.manager,
      fields,
      {
        where: `c.at >= :start AND (c.at <= :end OR c.kind <> 'created') AND c.record % ${PARTS} = :part`,
        parameters: { start, end, part },
      },
      MOST_CHANGED / PARTS + 1,
    );
  }

  /** What the log cannot tell of a condition is looked up once: which of the deals meet each such part of it. */
  private async meetingToday(
    actor: Actor,
    today: readonly Condition[],
    lately: Question,
    gone: readonly AnyRecord[],
  ): Promise<Map<Condition, Set<number>>> {
    if (today.length === 0) return new Map();
    const ids = gone.map(({ id }) => id);
    const [kept, deleted] = await Promise.all([
      this.gate.meetingOf(actor, lately, today),
      this.gate.meeting(actor, 'deal', today, ids, { kept: 'deleted' }),
    ]);
    return new Map(today.map((part, index) => [part, new Set([...kept[index], ...deleted[index]])]));
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
