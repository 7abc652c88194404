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

/** Where the open deals of a stage go. */
export interface StageMapping {
  stage: number;
  to: number;
}

interface Retirement {
  /** What is retired once no open deal stands in it. */
  of: 'stage' | 'pipeline';
  id: number;
  moves: readonly StageMapping[];
  deals: number[];
}

/** How long an answer waits for the work to be done before it tells of the job instead. */
const PATIENCE_MS = 2500;
const MOST = 200_000;
const onFile = { deletedAt: IsNull() };
/** Closed deals that the pace is taken from. */
const PACE_OF = 300;
/** Months over which stages are measured. */
const MONTHS = 12;

const standsOpenIn = ({ of, id }: Pick<Retirement, 'of' | 'id'>): Condition =>
  allOf(
    { field: of, is: 'anyOf', value: [id] },
    { field: 'outcome', is: 'anyOf', value: ['open'] },
  ) as Condition;

/** Setting up stages: how they did, their order, and retiring them and pipelines whose open deals go elsewhere. */
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

  /** Retires a stage: the open deals in it go to another of the same pipeline. */
  retireStage(writing: WriteContext, id: number, to: number): Promise<Job> {
    return this.retire(writing, { of: 'stage', id, moves: [{ stage: id, to }] }, async (unit) => {
      const [stage, target] = await Promise.all([unit.find('stage', id), unit.find('stage', to)]);
      if (target.pipeline !== stage.pipeline || target.id === stage.id || target.retired === true)
        throw invalidInput([
          { field: 'to', message: 'To: choose another stage of the same pipeline that is used' },
        ]);
      return String(target.name);
    });
  }

  /** Retires a pipeline: the open deals of each of its stages go to a stage of another pipeline. */
  retirePipeline(writing: WriteContext, id: number, moves: readonly StageMapping[]): Promise<Job> {
    return this.retire(writing, { of: 'pipeline', id, moves }, async (unit) => {
      const stages = await unit.manager.findBy<Stage>('stage', onFile);
      const pipelines = await unit.manager.findBy<AnyRecord>('pipeline', onFile);
      const used = pipelines.filter((each) => each.id !== id && each.retired !== true);
      const into = new Set<AnyRecord>();
      for (const [index, { stage, to }] of moves.entries()) {
        const target = stages.find((each) => each.id === to && each.retired !== true);
        const pipeline = used.find((each) => each.id === target?.pipeline);
        const isOwn = stages.some((each) => each.id === stage && each.pipeline === id);
        const wrong = isOwn
          ? pipeline
            ? undefined
            : { field: `stages.${index}.to`, message: 'To: choose a stage of another pipeline that is used' }
          : { field: `stages.${index}.stage`, message: 'Stage: name stages of the pipeline that is retired' };
        if (wrong) throw invalidInput([wrong]);
        if (pipeline) into.add(pipeline);
      }
      const open = await unit.manager.find<AnyRecord>('deal', {
        where: { pipeline: id, outcome: 'open', ...onFile } as object,
        select: { stage: true },
      });
      const unsaid = stages.filter(
        (each) =>
          open.some(({ stage }) => stage === each.id) && !moves.some(({ stage }) => stage === each.id),
      );
      if (unsaid.length > 0)
        throw invalidInput(
          unsaid.map(({ name }) => ({ field: 'stages', message: `Stages: say where deals in “${name}” go` })),
        );
      return [...into].map(({ name }) => String(name)).join('” and “');
    });
  }

  /**
   * Retires what open deals are moved out of first. Waits a little; what takes longer goes on by itself.
   * @param check refuses what cannot be done. @returns the names of where they go.
   * @throws Problem `conflict` where not all of the open deals are within reach.
   */
  private async retire(
    writing: WriteContext,
    retirement: Omit<Retirement, 'deals'>,
    check: (unit: Unit) => Promise<string>,
  ): Promise<Job> {
    const { actor } = writing;
    const { of, id } = retirement;
    const earlier = await earlierAnswer<Written<number>>(this.database.reading.manager, writing.asked);
    if (earlier) return this.jobs.settled(actor, earlier.answer.value, PATIENCE_MS);
    const deals = await this.gate.ids(actor, ask('deal', standsOpenIn(retirement)), {
      offset: 0,
      limit: MOST,
    });
    const { value: job } = await this.door.write({ ...writing, through: 'bulk' }, async (unit) => {
      // Its deals are not moved before that is known.
      if (!unit.policy.allows(of, 'edit'))
        throw new Problem('not-allowed', `Your role does not let you retire ${of}s. Nothing was written.`);
      const record = await unit.find(of, id);
      if (record.retired === true)
        throw new Problem('conflict', `${String(record.name)} is retired already.`);
      const where = await check(unit);
      await refuseUnseen(unit, retirement, deals.length);
      const gone = deals.length > 0 ? `; ${howMany('deal', deals.length)} went to “${where}”` : '';
      unit.label = `Retired the ${of} “${String(record.name)}”${gone}`;
      return this.jobs.store<Retirement>(unit.manager, actor, {
        kind: this.kind,
        label: unit.label,
        unit: unit.id,
        request: { ...retirement, deals },
        // The last step retires it, when nothing stands in it any more.
        total: deals.length + 1,
      });
    });
    await this.jobs.begin(actor, job);
    return this.jobs.settled(actor, job, PATIENCE_MS);
  }

  async work(unit: Unit, { of, id, moves, deals }: Retirement, from: number, count: number): Promise<Slice> {
    const slice: Slice = { changed: 0, refusals: [] };
    holdNothingUp(unit);
    const attempt = async (its: number, name: string, write: () => Promise<unknown>) => {
      const refusal = await unit.attempt(write);
      if (refusal === undefined) slice.changed += 1;
      else slice.refusals.push({ id: its, name, reason: refusal });
    };
    const targets = await unit.everyones(
      'stage',
      moves.map(({ to }) => to),
    );
    const move = async (ids: readonly number[]) => {
      const there = await unit.visible('deal', ids);
      for (const deal of there.values()) {
        const target = targets.get(moves.find(({ stage }) => stage === deal.stage)?.to ?? 0);
        // Moved or closed meanwhile by somebody else: as they left it.
        if (!target || deal.outcome !== 'open') continue;
        const isElsewhere = target.pipeline !== deal.pipeline;
        const changes = {
          stage: target.id,
          ...(isElsewhere ? { pipeline: target.pipeline as number } : {}),
        };
        await attempt(deal.id, String(deal.name), () =>
          unit.change('deal', deal.id, changes, {
            before: deal,
            ...(isElsewhere ? { setter: 'feature' as const } : {}),
          }),
        );
      }
    };
    await move(deals.slice(from, from + count));
    if (from + count > deals.length) {
      // What came into it meanwhile goes along.
      const late = { [of]: id, outcome: 'open', ...onFile };
      await move((await unit.manager.findBy<AnyRecord>('deal', late)).map((deal) => deal.id));
      await attempt(id, `The ${of}`, () => unit.change(of, id, { retired: true }));
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
async function refuseUnseen(
  unit: Unit,
  { of, id }: Pick<Retirement, 'of' | 'id'>,
  seen: number,
): Promise<void> {
  const all = await unit.manager.countBy('deal', { [of]: id, outcome: 'open', ...onFile });
  if (all > seen)
    throw new Problem(
      'conflict',
      `${howMany('deal', all - seen)} in this ${of} are not yours to see. Somebody who sees all deals can retire it.`,
    );
}
