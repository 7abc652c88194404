import { enterStage, endStay, type AnyRecord, type StageStay } from '@zawn/core';
import { type StayRow } from '../database/entities';
import { invalidInput, Problem } from '../http/problem';
import { type Meaning, type Values } from '../records/meaning';
import { type Unit } from '../records/unit';

const FIRST_NUMBER = 1001;

async function nextNumber(unit: Unit): Promise<string> {
  const row = await unit.manager
    .createQueryBuilder()
    .select('MAX(d.id)', 'last')
    .from('deal', 'd')
    .getRawOne<{ last: number | null }>();
  return `D-${FIRST_NUMBER + (row?.last ?? 0)}`;
}

/** A deal stands in a stage of its own pipeline. */
async function checkStage(unit: Unit, deal: Values): Promise<void> {
  const stage = await unit.find('stage', Number(deal.stage)).catch(() => undefined);
  if (stage && stage.pipeline !== deal.pipeline) {
    throw invalidInput([{ field: 'stage', message: `${String(stage.name)} is a stage of another pipeline` }]);
  }
}

/** Writes the difference between two histories of a deal: the ended stay and the begun one. */
async function writeStays(unit: Unit, deal: number, before: StayRow[], after: StageStay[]): Promise<void> {
  for (const [index, stay] of after.entries()) {
    const row = before[index];
    if (!row) {
      await unit.manager.insert('stay', {
        ...stay,
        deal,
        person: unit.actor.personId || null,
        through: unit.through,
        unit: unit.id,
        leftUnit: null,
      });
    } else if (row.leftAt !== stay.leftAt) {
      await unit.manager.update('stay', row.id, { leftAt: stay.leftAt, leftUnit: unit.id });
    }
  }
}

/**
 * Keeps the stage history. Taking back a move takes its stay back too: a slip of the mouse is not a stage the
 * deal has been in, while the change log keeps both.
 */
async function keepHistory(unit: Unit, deal: AnyRecord): Promise<void> {
  if (unit.undoes !== undefined) {
    await unit.manager.delete('stay', { deal: deal.id, unit: unit.undoes });
    await unit.manager.update(
      'stay',
      { deal: deal.id, leftUnit: unit.undoes },
      { leftAt: null, leftUnit: null },
    );
    return;
  }
  const stays = await unit.manager.find<StayRow>('stay', { where: { deal: deal.id }, order: { id: 'ASC' } });
  const after =
    deal.outcome === 'open' ? enterStage(stays, Number(deal.stage), unit.at) : endStay(stays, unit.at);
  await writeStays(unit, deal.id, stays, after);
}

/** What writing a deal means: a number, a stage of its pipeline, and its stage history. */
export const dealMeaning: Meaning = {
  object: 'deal',

  async prepare(unit, next, before) {
    if (!before) {
      const started = {
        outcome: next.outcome ?? 'open',
        stageSince: unit.at,
        number: await nextNumber(unit),
      };
      Object.assign(next, started);
      await checkStage(unit, next);
      return;
    }
    if (next.stage === undefined || next.stage === before.stage) return;
    if (before.outcome !== 'open' && unit.undoes === undefined) {
      throw new Problem('conflict', 'This deal is closed. Reopen it before moving it to another stage.');
    }
    await checkStage(unit, { ...before, ...next });
    // An undo brings the earlier date back itself.
    next.stageSince ??= unit.at;
  },

  async settle(unit, deal, before) {
    const moved = deal.stage !== before?.stage || deal.outcome !== before?.outcome;
    if (moved) await keepHistory(unit, deal);
  },
};
