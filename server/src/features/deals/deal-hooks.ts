import {
  dayIn,
  dealNumbersOf,
  enterStage,
  endStagePeriod,
  numberBy,
  type AnyRecord,
  type StagePeriod,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type ChangeRow, type StagePeriodRow } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { mustBeDone } from '../guides/guides';
import { type Unit } from '../../kernel/records/unit';
import { settingsOf } from './settings-of';

/** The number of a new deal, by the organisation's pattern: one that no deal had under an earlier pattern. */
async function nextNumber(unit: Unit): Promise<string> {
  const settings = await settingsOf(unit);
  const numbers = dealNumbersOf(settings);
  const day = dayIn(settings.timeZone, unit.at);
  const counter = numbers.isYearly ? `deal ${day.slice(0, 4)}` : 'deal';
  for (;;) {
    const number = numberBy(numbers, dialect.nextNumber(unit.manager, counter), day);
    if (!dialect.holds(unit.manager, 'deal', 'number', number)) return number;
  }
}

/** A deal stands in a stage of its own pipeline. */
async function checkStage(unit: Unit, deal: Values): Promise<void> {
  const stage = await unit.find('stage', Number(deal.stage)).catch(() => undefined);
  if (stage && stage.pipeline !== deal.pipeline) {
    throw invalidInput([{ field: 'stage', message: `${String(stage.name)} is a stage of another pipeline` }]);
  }
  if (stage?.retired === true && unit.undoes === undefined)
    throw new Problem('conflict', `${String(stage.name)} is retired. Choose another stage.`);
}

/** An entry of the log that a deal's stage history follows from. */
interface Move extends Pick<
  ChangeRow,
  'at' | 'unit' | 'person' | 'through' | 'kind' | 'field' | 'old' | 'new'
> {
  undoneBy: number | null;
}

/** The entries about where a deal stood and whether it was open, in their order. */
function movesOf(unit: Unit, deal: number): Promise<Move[]> {
  return unit.manager
    .createQueryBuilder()
    .select(['c.at AS at', 'c.unit AS unit', 'c.person AS person', 'c.through AS through', 'c.kind AS kind'])
    .addSelect(['c.field AS field', 'c.old AS old', 'c.new AS new', 'u.undoneBy AS undoneBy'])
    .from('change', 'c')
    .innerJoin('unit', 'u', 'u.id = c.unit')
    .where(`c.object = 'deal' AND c.record = :deal`, { deal })
    .orderBy('c.id')
    .getRawMany<Move>();
}

/**
 * What a deal's stage history is by its log: of what was undone nothing, of what was done again all. Undoing and doing
 * again are no moves of their own.
 */
function historyByLog(moves: readonly Move[], deal: AnyRecord, undoing: { undoes: number; id: number }) {
  const undoneBy = new Map(moves.map((move) => [move.unit, move.undoneBy]));
  // The unit being written marks what it takes back only at its end.
  undoneBy.set(undoing.undoes, undoing.id);
  const stands = (unit: number): boolean => {
    const by = undoneBy.get(unit) ?? null;
    // An undo that left this deal alone, as it was changed since, has no entry here and took nothing back.
    return by === null || !undoneBy.has(by) || !stands(by);
  };
  const first = (field: string) =>
    moves.find((move) => move.field === field)?.old ?? JSON.stringify(deal[field]);
  let [stage, outcome] = [JSON.parse(first('stage')) as number, JSON.parse(first('outcome')) as string];
  let periods: StagePeriod[] = [];
  const by: Pick<Move, 'unit' | 'person' | 'through'>[] = [];
  const units = [...new Set(moves.map((move) => move.unit))];
  for (const id of units) {
    const own = moves.filter((move) => move.unit === id);
    if (own[0].through === 'undo' || !stands(id)) continue;
    for (const { field, new: value } of own) {
      if (field === 'stage') stage = JSON.parse(value ?? 'null') as number;
      if (field === 'outcome') outcome = JSON.parse(value ?? 'null') as string;
    }
    periods = outcome === 'open' ? enterStage(periods, stage, own[0].at) : endStagePeriod(periods, own[0].at);
    while (by.length < periods.length) by.push(own[0]);
  }
  return periods.map((period, index) => ({ ...period, ...by[index] }));
}

/** Writes the difference between two histories of a deal: the ended period and the begun one. */
async function writeStagePeriods(
  unit: Unit,
  deal: number,
  before: StagePeriodRow[],
  after: StagePeriod[],
): Promise<void> {
  for (const [index, period] of after.entries()) {
    const row = before[index];
    if (!row) {
      await unit.manager.insert('stagePeriod', {
        ...period,
        deal,
        person: unit.actor.personId || null,
        through: unit.through,
        unit: unit.id,
        leftUnit: null,
      });
    } else if (row.leftAt !== period.leftAt) {
      await unit.manager.update('stagePeriod', row.id, { leftAt: period.leftAt, leftUnit: unit.id });
    }
  }
}

/**
 * Keeps the stage history. Taking back a move takes its period back too: a slip of the mouse is not a stage the
 * deal has been in, while the change log keeps both. Undoing in turn brings it back.
 */
async function keepHistory(unit: Unit, deal: AnyRecord): Promise<void> {
  if (unit.undoes !== undefined) {
    const moves = await movesOf(unit, deal.id);
    const history = historyByLog(moves, deal, { undoes: unit.undoes, id: unit.id });
    await unit.manager.delete('stagePeriod', { deal: deal.id });
    for (const { unit: made, ...period } of history)
      await unit.manager.insert('stagePeriod', { ...period, deal: deal.id, unit: made, leftUnit: null });
    return;
  }
  const periods = await unit.manager.find<StagePeriodRow>('stagePeriod', {
    where: { deal: deal.id },
    order: { id: 'ASC' },
  });
  const after =
    deal.outcome === 'open'
      ? enterStage(periods, Number(deal.stage), unit.at)
      : endStagePeriod(periods, unit.at);
  await writeStagePeriods(unit, deal.id, periods, after);
}

/** Whether an open deal is put off: an undo brings the earlier count back itself. */
const isPushed = ({ undoes }: Unit, next: Values, before: AnyRecord) =>
  undoes === undefined &&
  before.outcome === 'open' &&
  typeof next.closeOn === 'string' &&
  next.closeOn > String(before.closeOn);

/** What writing a deal means: a number, a stage of its pipeline, and its stage history. */
export const dealHooks: RecordHooks = {
  object: 'deal',

  async beforeWrite(unit, next, before) {
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
    if (isPushed(unit, next, before)) next.timesPushed = Number(before.timesPushed ?? 0) + 1;
    const isMoved = (['stage', 'pipeline'] as const).some(
      (key) => (next[key] ?? before[key]) !== before[key],
    );
    if (!isMoved) return;
    if (before.outcome !== 'open' && unit.undoes === undefined) {
      throw new Problem('conflict', 'This deal is closed. Reopen it before moving it to another stage.');
    }
    await checkStage(unit, { ...before, ...next });
    if (unit.undoes === undefined) await mustBeDone(unit, 'deal', before, next);
    // An undo brings the earlier date back itself.
    next.stageSince ??= unit.at;
  },

  async afterWrite(unit, deal, before) {
    const moved = deal.stage !== before?.stage || deal.outcome !== before?.outcome;
    if (moved) await keepHistory(unit, deal);
  },
};
