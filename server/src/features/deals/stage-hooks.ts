import { IsNull, type EntityManager } from 'typeorm';
import { howMany, type AnyRecord, type RecordOf } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

type Stage = AnyRecord & RecordOf<'stage'>;
type Pipeline = AnyRecord & RecordOf<'pipeline'>;

/** Stages of one pipeline that are of use: more are a mistake. */
const MOST_STAGES = 50;

const onFile = { deletedAt: IsNull() };

const openDeals = (manager: EntityManager, where: Partial<Record<'stage' | 'pipeline', number>>) =>
  manager.countBy('deal', { ...where, outcome: 'open', ...onFile });

function refuseTwice(others: readonly AnyRecord[], next: Values, where: string): void {
  if (typeof next.name !== 'string') return;
  const name = next.name.trim().toLowerCase();
  if (others.some((each) => String(each.name).trim().toLowerCase() === name))
    throw invalidInput([{ field: 'name', message: `Name: ${where} “${next.name}” already` }]);
}

/** Makes room for a new stage at the end of its pipeline: those of later pipelines move on. */
async function placeAtEnd(unit: Unit, next: Values, own: readonly Stage[]): Promise<void> {
  const all = await unit.manager.find<Stage>('stage', {
    where: onFile,
    order: { position: 'ASC', id: 'ASC' },
  });
  const last = own.length > 0 ? Math.max(...own.map(({ position }) => position)) : undefined;
  const position = last === undefined ? Math.max(-1, ...all.map((each) => each.position)) + 1 : last + 1;
  next.position = position;
  if (!all.some((each) => each.position === position)) return;
  for (const each of all.filter((stage) => stage.position >= position).reverse())
    // It follows from adding one, which is permitted to whoever changes none.
    await unit.change('stage', each.id, { position: each.position + 1 }, { permittedBy: 'setUpPipelines' });
}

/** What writing a stage means: it has a name of its own in its pipeline, and nothing open stands in one that is retired. */
export const stageHooks: RecordHooks = {
  object: 'stage',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const pipeline = Number(before?.pipeline ?? next.pipeline);
    const stages = await unit.manager.findBy<Stage>('stage', { pipeline, ...onFile });
    const others = stages.filter(({ id }) => id !== before?.id);
    refuseTwice(others, next, 'the pipeline has a stage');
    if (!before) {
      if (stages.length >= MOST_STAGES)
        throw new Problem('conflict', `A pipeline has ${MOST_STAGES} stages at most. Nothing was written.`);
      if (unit.through !== 'setup') await placeAtEnd(unit, next, stages);
      return;
    }
    if (next.retired !== true || before.retired === true) return;
    if (!others.some(({ retired }) => retired !== true))
      throw new Problem(
        'conflict',
        'It is the last stage of its pipeline. Retire the pipeline, or add a stage first.',
      );
    const open = await openDeals(unit.manager, { stage: before.id });
    if (open > 0)
      throw new Problem(
        'conflict',
        `${howMany('deal', open)} still open in it. Say to which stage they go first.`,
      );
  },
};

/** What writing a pipeline means: a name of its own, and one at least that is used. */
export const pipelineHooks: RecordHooks = {
  object: 'pipeline',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const others = (await unit.manager.findBy<Pipeline>('pipeline', onFile as object)).filter(
      ({ id }) => id !== before?.id,
    );
    refuseTwice(others, next, 'there is a pipeline');
    const renewed = { ...before, ...next };
    if (Boolean(renewed.renewsIn) !== Boolean(renewed.renewsAfter))
      throw invalidInput([
        renewed.renewsIn
          ? { field: 'renewsAfter', message: 'Renewed after months: say after how many' }
          : { field: 'renewsIn', message: 'Renewed in: say in which pipeline' },
      ]);
    if (!before && unit.through !== 'setup')
      next.position = Math.max(-1, ...others.map(({ position }) => position)) + 1;
    if (!before || next.retired !== true || before.retired === true) return;
    if (!others.some(({ retired }) => retired !== true))
      throw new Problem('conflict', 'It is the only pipeline that is used. Add another first.');
    const open = await openDeals(unit.manager, { pipeline: before.id });
    if (open > 0)
      throw new Problem(
        'conflict',
        `${howMany('deal', open)} still open in it. Say to which stages they go first.`,
      );
  },
};

/** What naming a team of a pipeline means: once, and one pipeline at most is proposed to a team. */
export const pipelineTeamHooks: RecordHooks = {
  object: 'pipelineTeam',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const link = { ...before, ...next };
    const own = await unit.manager.findBy<AnyRecord>('pipelineTeam', { team: Number(link.team), ...onFile });
    const others = own.filter(({ id }) => id !== before?.id);
    if (!before && others.some(({ pipeline }) => pipeline === next.pipeline))
      throw new Problem('conflict', 'The team works with this pipeline already.');
    if (next.proposed !== true) return;
    for (const other of others.filter(({ proposed }) => proposed === true))
      await unit.change('pipelineTeam', other.id, { proposed: false }, { permittedBy: 'setUpPipelines' });
  },
};
