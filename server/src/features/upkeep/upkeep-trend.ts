import { Injectable } from '@nestjs/common';
import { In, MoreThanOrEqual } from 'typeorm';
import {
  ask,
  addDays,
  countsIn,
  policyOf,
  readinessOf,
  periodOf,
  systemActor,
  upkeepKindsOf,
  upkeepQuestions,
  type Actor,
  type Day,
  type UpkeepCheck,
  type UpkeepTrend,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type UpkeepWeekRow } from '../../platform/database/rows';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../../kernel/jobs/nightly-jobs';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';

/** Weeks that are told. */
const WEEKS = 12;

/** How ready what people own is for reports, kept week by week: each night as it is, until the week ends. */
@Nightly()
@Injectable()
export class UpkeepTrends implements HasNightlyJobs {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {}

  nightlyJobs(): NightlyJob[] {
    return [{ name: 'upkeep', work: () => this.keep() }];
  }

  /** The last weeks of all that somebody reaches. */
  async of(actor: Actor): Promise<UpkeepTrend> {
    const owners = policyOf(actor).owners('deal');
    const from = addDays(await this.thisWeek(), -7 * (WEEKS - 1));
    const rows = await this.database.reading.manager.findBy<UpkeepWeekRow>('upkeepWeek', {
      week: MoreThanOrEqual(from),
      ...(owners ? { owner: In([...owners]) } : {}),
    });
    const weeks = new Map<string, { asked: number; held: number }>();
    for (const { week, asked, held } of rows) {
      const sum = weeks.get(week) ?? { asked: 0, held: 0 };
      weeks.set(week, { asked: sum.asked + asked, held: sum.held + held });
    }
    return {
      weeks: [...weeks]
        .filter(([, { asked }]) => asked > 0)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([week, { asked, held }]) => ({ from: week, ready: held / asked })),
    };
  }

  /** Counts what is looked for, for each owner, and keeps it as that of this week. */
  private async keep(): Promise<void> {
    const checks = await this.gate.few<UpkeepCheck>(systemActor, ask('upkeepCheck'), [
      'id',
      'kind',
      'label',
      'question',
      'limit',
      'off',
    ]);
    const kinds = upkeepKindsOf(checks);
    const answers = [];
    // One after the other, so that nobody waits for them.
    const asked = upkeepQuestions(kinds);
    for (const { question } of asked) answers.push(await this.gate.figures(systemActor, question));
    const week = await this.thisWeek();
    const rows = [...countsIn(asked, answers).byOwner].map(([owner, counts]) => {
      const { asked, held } = readinessOf(kinds, counts);
      return { week, owner, asked, held };
    });
    if (rows.length === 0) return;
    await this.database.writer.transaction((manager) =>
      manager.upsert('upkeepWeek', rows, ['week', 'owner']),
    );
  }

  private async thisWeek(): Promise<Day> {
    const { timeZone, fiscalYearStart, weekStart } = await this.organisation.settings();
    return periodOf('week', this.clock.today(timeZone), { fiscalYearStart, weekStart }, 0).from;
  }
}
