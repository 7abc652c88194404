import { Injectable } from '@nestjs/common';
import { In, IsNull } from 'typeorm';
import {
  addDays,
  addMonths,
  allOf,
  ask,
  howMany,
  measureStages,
  type Actor,
  type AnyRecord,
  type Condition,
  type Day,
  type Job,
  type MeasuredDeal,
  type RecordOf,
  type StageMeasure,
  type StageMeasures,
  type StagePeriod,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { earlierAnswer } from '../../platform/database/once';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Jobs, type JobKind, type Slice } from '../../kernel/jobs/jobs';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Unit } from '../../kernel/records/unit';
import { holdNothingUp } from '../guides/guides';

type Stage = AnyRecord & RecordOf<'stage'>;

interface Retirement {
  stage: number;
  to: number;
  deals: number[];
}

/** How long an answer waits for the work to be done before it tells of the job instead. */
const PATIENCE_MS = 2500;
const MOST = 200_000;
/** Closed deals that the pace is taken from. */
const PACE_OF = 300;
/** Months over which stages are measured. */
const MONTHS = 12;

const standsOpenIn = (stage: number): Condition =>
  allOf(
    { field: 'stage', is: 'anyOf', value: [stage] },
    { field: 'outcome', is: 'anyOf', value: ['open'] },
  ) as Condition;

/** Setting up stages: how they did, their order, and retiring one whose open deals go elsewhere. */
@Injectable()
export class Pipelines implements JobKind<Retirement> {
  readonly kind = 'retirement';

  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly jobs: Jobs,
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {
    jobs.register(this);
  }

  /** How every stage did, by the deals within reach that are open or were closed in the last twelve months. */
  async measures(actor: Actor): Promise<StageMeasures> {
    const { timeZone } = await this.organisation.settings();
    const { today } = await this.gate.context(actor);
    const since = addMonths(today, -MONTHS);
    const closedLately = ask('deal', { field: 'closedOn', is: 'after', value: addDays(since, -1) });
    const openNow = ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] });
    const all = { offset: 0, limit: MOST };
    const [closed, open, counts] = await Promise.all([
      this.gate.records(actor, { ...closedLately, columns: ['outcome'] }, all),
      this.gate.ids(actor, openNow, all),
      this.gate.figures(actor, { ...openNow, groups: [{ field: 'stage' }], measures: [{ as: 'count' }] }),
    ]);
    const outcomes = new Map<number, MeasuredDeal['outcome']>(open.map((id) => [id, 'open']));
    for (const { id, outcome } of closed.rows) outcomes.set(id, outcome as MeasuredDeal['outcome']);
    const periods = new Map<number, StagePeriod[]>();
    for (const { deal, ...period } of await this.periodsOf(since))
      if (outcomes.has(deal)) periods.set(deal, [...(periods.get(deal) ?? []), period]);
    const deals = [...periods].map(([id, own]) => ({ outcome: outcomes.get(id) ?? 'open', periods: own }));
    return {
      measures: measureStages(deals, timeZone),
      open: counts.rows.map(({ keys: [stage], figures: [count] }) => ({
        stage: Number(stage),
        count: count ?? 0,
      })),
    };
  }

  /** Puts the stages of a pipeline into an order, as one undoable change. */
  async order(writing: WriteContext, pipeline: number, wanted: readonly number[]): Promise<Written<null>> {
    return this.door.write(writing, async (unit) => {
      const stages = await unit.manager.find<Stage>('stage', {
        where: { pipeline, deletedAt: IsNull() } as object,
        order: { position: 'ASC', id: 'ASC' },
      });
      const isWhole = stages.length === wanted.length && stages.every(({ id }) => wanted.includes(id));
      if (!isWhole)
        throw invalidInput([{ field: 'stages', message: 'Stages: name each stage of the pipeline once' }]);
      const places = stages.map(({ position }) => position);
      for (const [index, id] of wanted.entries()) await unit.change('stage', id, { position: places[index] });
      unit.label = 'Put stages into another order';
      return null;
    });
  }

  /**
   * Retires a stage: the open deals in it go to another of the same pipeline. Waits a little; what takes longer goes on
   * by itself.
   * @throws Problem `conflict` where not all of its open deals are within reach.
   */
  async retire(writing: WriteContext, id: number, to: number): Promise<Job> {
    const { actor } = writing;
    const earlier = await earlierAnswer<Written<number>>(this.database.reading.manager, writing.asked);
    if (earlier) return this.jobs.settled(actor, earlier.answer.value, PATIENCE_MS);
    const deals = await this.gate.ids(actor, ask('deal', standsOpenIn(id)), { offset: 0, limit: MOST });
    const { value: job } = await this.door.write({ ...writing, through: 'bulk' }, async (unit) => {
      // Its deals are not moved before that is known.
      if (!unit.policy.allows('stage', 'edit'))
        throw new Problem('not-allowed', 'Your role does not let you retire stages. Nothing was written.');
      const [stage, target] = await Promise.all([unit.find('stage', id), unit.find('stage', to)]);
      if (stage.retired === true) throw new Problem('conflict', `${String(stage.name)} is retired already.`);
      if (target.pipeline !== stage.pipeline || target.id === stage.id || target.retired === true)
        throw invalidInput([
          { field: 'to', message: 'To: choose another stage of the same pipeline that is used' },
        ]);
      await refuseUnseen(unit, id, deals.length);
      unit.label = `Retired the stage “${String(stage.name)}”; ${howMany('deal', deals.length)} went to “${String(target.name)}”`;
      return this.jobs.store<Retirement>(unit.manager, actor, {
        kind: this.kind,
        label: unit.label,
        unit: unit.id,
        request: { stage: id, to, deals },
        // The last step retires the stage, when nothing stands in it any more.
        total: deals.length + 1,
      });
    });
    await this.jobs.begin(actor, job);
    return this.jobs.settled(actor, job, PATIENCE_MS);
  }

  async work(unit: Unit, { stage, to, deals }: Retirement, from: number, count: number): Promise<Slice> {
    const slice: Slice = { changed: 0, refusals: [] };
    holdNothingUp(unit);
    const move = async (ids: readonly number[]) => {
      const there = await unit.visible('deal', ids);
      for (const id of ids) {
        const deal = there.get(id);
        // Moved or closed meanwhile by somebody else: as they left it.
        if (deal?.stage !== stage || deal.outcome !== 'open') continue;
        const refusal = await unit.attempt(() => unit.change('deal', id, { stage: to }, { before: deal }));
        if (refusal === undefined) slice.changed += 1;
        else slice.refusals.push({ id, name: String(deal.name), reason: refusal });
      }
    };
    await move(deals.slice(from, from + count));
    if (from + count > deals.length) {
      // What came into it meanwhile goes along.
      const late = { stage, outcome: 'open', deletedAt: IsNull() };
      await move((await unit.manager.findBy<AnyRecord>('deal', late)).map(({ id }) => id));
      const refusal = await unit.attempt(() => unit.change('stage', stage, { retired: true }));
      if (refusal === undefined) slice.changed += 1;
      else slice.refusals.push({ id: stage, name: 'The stage', reason: refusal });
    }
    return slice;
  }

  /**
   * How long deals within reach stayed in each stage: the latest that were closed, as many as say something, so that
   * a sheet does not wait for the history of years.
   */
  async pace(actor: Actor): Promise<StageMeasure[]> {
    const { timeZone } = await this.organisation.settings();
    const closed = ask('deal', { field: 'outcome', is: 'noneOf', value: ['open'] });
    const latest = { ...closed, sort: [{ field: 'closedOn', descending: true }] };
    const ids = await this.gate.ids(actor, latest, { offset: 0, limit: PACE_OF });
    const rows = await this.database.reading.manager.find<StagePeriod & { deal: number }>('stagePeriod', {
      where: { deal: In(ids) } as object,
      order: { id: 'ASC' } as object,
    });
    const periods = new Map<number, StagePeriod[]>();
    for (const { deal, ...period } of rows) periods.set(deal, [...(periods.get(deal) ?? []), period]);
    return measureStages(
      [...periods.values()].map((own) => ({ outcome: 'won', periods: own })),
      timeZone,
    );
  }

  /** Where deals were that are open, or were closed since a day. */
  private async periodsOf(since: Day): Promise<(StagePeriod & { deal: number })[]> {
    const [sql, parameters] = this.database.reading
      .createQueryBuilder()
      .select(['p.deal AS deal', 'p.stage AS stage', 'p.enteredAt AS enteredAt', 'p.leftAt AS leftAt'])
      .from('stagePeriod', 'p')
      .innerJoin('deal', 'd', 'd.id = p.deal')
      .where(`d.deletedAt IS NULL AND (d.outcome = 'open' OR d.closedOn >= :since)`, { since })
      .orderBy('p.id')
      .getQueryAndParameters();
    const rows = await this.database.reader.many({ sql, parameters });
    return rows as unknown as (StagePeriod & { deal: number })[];
  }
}

/** Deals that are moved unseen would be moved by nobody's leave. */
async function refuseUnseen(unit: Unit, stage: number, seen: number): Promise<void> {
  const all = await unit.manager.countBy('deal', { stage, outcome: 'open', deletedAt: IsNull() });
  if (all > seen)
    throw new Problem(
      'conflict',
      `${howMany('deal', all - seen)} in this stage are not yours to see. Somebody who sees all deals can retire it.`,
    );
}
