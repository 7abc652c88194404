import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import {
  contextAsOf,
  dayIn,
  languageOf,
  leftOutInWords,
  pastDayMeant,
  policyOf,
  runnable,
  scopeCondition,
  seenCatalogue,
  type Actor,
  type Catalogue,
  type LeftOut,
  type ObjectKey,
  type Operation,
  type PastDay,
  type Question,
  type QuestionContext,
  type Rate,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type SqlRow, type Statement } from '../../platform/database/statement';
import { invalidInput } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { DayEnds } from './day-ends';
import { type Held } from './sql-scope';
import { QuestionSql } from './to-sql';

/** A question on its way, with who asks it and what it means. */
export interface PreparedQuestion {
  actor: Actor;
  context: QuestionContext;
  /** Every field there is, those that the person does not see included. */
  facts: Catalogue;
  rates: readonly Rate[];
  question: Question;
  leftOut: LeftOut[];
  /** Reads inside that transaction, where whole records are worked on, instead of what is committed. */
  manager?: EntityManager;
  /** What is to be done with the records. */
  operation: Operation;
  /** The fields whose values at the end of the past day that is asked about are kept aside. */
  dayEnds?: readonly string[];
}

/** What a statement rests on beside its question: another of any of it makes another statement. */
export const restsOn = ({ actor, context, facts, rates }: PreparedQuestion): unknown[] => [
  policyOf(actor),
  facts,
  rates,
  context.catalogue,
  context.today,
  // What depends on the clock depends on it by the minute at most.
  context.now.slice(0, 'yyyy-mm-ddThh:mm'.length),
  context.lists.join(),
  context.timeZone,
  context.reportingCurrency,
];

/** With the fields of the records that are read: all of them where a write works on them, otherwise those seen. */
export const withFieldsRead = (asking: PreparedQuestion): PreparedQuestion =>
  asking.manager ? { ...asking, context: { ...asking.context, catalogue: asking.facts } } : asking;

/** Prepares questions: what they mean for whoever asks, and what these are held to. */
@Injectable()
export class QuestionPreparer {
  constructor(
    protected readonly database: Database,
    protected readonly organisation: Organisation,
    private readonly clock: Clock,
    private readonly dayEnds: DayEnds,
  ) {}

  /** What relative words such as *me* and *this quarter* mean for a person now, and which fields there are. */
  async context(actor: Actor): Promise<QuestionContext> {
    const { country, timeZone, fiscalYearStart, weekStart, currency } = await this.organisation.settings();
    return {
      catalogue: seenCatalogue(await this.organisation.catalogue(), policyOf(actor)),
      lists: await this.organisation.listsFor(actor),
      today: this.clock.today(timeZone),
      now: this.clock.now(),
      timeZone,
      language: languageOf(country),
      calendar: { fiscalYearStart, weekStart },
      reportingCurrency: currency,
      me: actor.personId,
      myTeam: actor.teamPeople,
      myTeams: actor.teams,
    };
  }

  protected async asking(
    actor: Actor,
    question: Question,
    manager?: EntityManager,
    operation: Operation = 'see',
  ): Promise<PreparedQuestion> {
    const now = await this.context(actor);
    const context = isPast(question, now) ? contextAsOf(question.asOf, now) : now;
    const rates = await this.organisation.rates();
    const facts = await this.organisation.catalogue();
    const known = runnable(question, context);
    if (!context.isPast) return { actor, context, facts, rates, manager, operation, ...known };
    known.leftOut.push(...(await this.beforeLog(context)));
    const dayEnds = await this.dayEnds.fieldsOn(question.object, context.today, context.timeZone);
    return { actor, context, facts, rates, manager, operation, dayEnds, ...known };
  }

  /** That a day lies before anything was logged, as a part of the question that cannot be answered. */
  private async beforeLog({ today, timeZone }: QuestionContext): Promise<LeftOut[]> {
    const first = await this.database.reading
      .createQueryBuilder()
      .select('c.at', 'at')
      .from('change', 'c')
      .orderBy('c.id')
      .limit(1)
      .getRawOne<{ at: string }>();
    const day = first && dayIn(timeZone, first.at);
    return day && today < day ? [{ part: day, reason: 'beforeLog', at: 'where' }] : [];
  }

  /** What a question is held to, as the person asking may see only so much. */
  protected heldTo({ actor, facts, question, operation }: PreparedQuestion): Held {
    const policy = policyOf(actor);
    return {
      root: scopeCondition(policy, question.object, operation),
      reachOf: (object: ObjectKey) => scopeCondition(policy, object),
      facts,
    };
  }

  protected guarded(asking: PreparedQuestion, kept: 'kept' | 'deleted' = 'kept'): QuestionSql {
    const { context, rates, question, manager, dayEnds } = asking;
    const source = manager ?? this.database.reading;
    const held = this.heldTo(asking);
    return new QuestionSql(source, question.object, context, rates, held, { kept, dayEnds }).restrict(
      question.where,
    );
  }

  protected many({ manager }: PreparedQuestion, statement: Statement): Promise<SqlRow[]> {
    return manager ? this.within(manager, statement) : this.database.reader.many(statement);
  }

  protected within(manager: EntityManager, { sql, parameters }: Statement): Promise<SqlRow[]> {
    return manager.query<SqlRow[]>(sql, [...parameters]);
  }
}

/**
 * Whether a question is asked of records as they stood.
 * @throws Problem `invalid-input` where that day has not come.
 */
function isPast(question: Question, context: QuestionContext): question is Question & { asOf: PastDay } {
  const { asOf } = question;
  if (asOf === undefined) return false;
  const day = pastDayMeant(asOf, context);
  if (day > context.today)
    throw invalidInput([
      { field: 'question.asOf', message: `${day} has not come yet: nothing has stood then` },
    ]);
  return true;
}

/** Whether a condition is not asked, so that more would be found than is meant: by what is not seen nothing is found. */
export const lacksCondition = ({ leftOut }: PreparedQuestion): boolean =>
  leftOut.some(({ at }) => at === 'where');

/** @throws Problem `invalid-input` naming parts of a question that cannot be asked; nothing where there are none. */
export function refuseParts(parts: readonly LeftOut[]): void {
  if (parts.length > 0)
    throw invalidInput(
      parts.map((part) => ({ field: `question.${part.at}.${part.part}`, message: leftOutInWords(part) })),
    );
}
