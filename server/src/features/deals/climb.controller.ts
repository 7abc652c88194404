import { Controller, Get } from '@nestjs/common';
import {
  ask,
  kindsWithoutTouch,
  policyOf,
  type Actor,
  type AnyRecord,
  type Condition,
  type DealHistory,
  type ObjectKey,
  type StagePace,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type ChangeRow, type StagePeriodRow } from '../../platform/database/rows';
import { RecordId } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';
import { Gate } from '../../kernel/questions/gate';
import { Pipelines } from './pipelines';

type Change = Pick<ChangeRow, 'at' | 'field' | 'old' | 'new'>;

const DRAWN = ['value', 'closeOn', 'outcome'];
const MOST = 1000;
/** A pace rests on so many stays at least. */
const ENOUGH_STAYS = 5;
const VALUE_OF = <T>({ old, new: now }: Change) => ({
  from: JSON.parse(old ?? 'null') as T,
  to: JSON.parse(now ?? 'null') as T,
});

/** What a deal's climb is drawn from. */
@ForPrograms()
@Controller('api/v1')
export class ClimbController {
  constructor(
    private readonly gate: Gate,
    private readonly database: Database,
    private readonly pipelines: Pipelines,
  ) {}

  /** A deal's stays in its stages, touches, and changes of value, close date and outcome, as far as they are seen. */
  @Get('deals/:id/history')
  async history(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<DealHistory> {
    await this.gate.find(actor, 'deal', id);
    const { manager } = this.database.reading;
    const [periods, changes, touches] = await Promise.all([
      manager.find<StagePeriodRow>('stagePeriod', { where: { deal: id }, order: { id: 'ASC' } }),
      this.changes(actor, id),
      this.touches(actor, id),
    ]);
    const of = (field: string) => changes.filter((change) => change.field === field);
    return {
      periods: periods.map(({ stage, enteredAt, leftAt, person }) => ({ stage, enteredAt, leftAt, person })),
      touches,
      values: of('value').map((change) => ({ at: change.at, ...VALUE_OF<number>(change) })),
      closeDates: of('closeOn').map((change) => ({ at: change.at, ...VALUE_OF<string>(change) })),
      outcomes: of('outcome').map((change) => ({ at: change.at, to: VALUE_OF<string>(change).to })),
    };
  }

  /** How many days deals within reach usually stay in each stage: the middle one of the latest that were closed. */
  @Get('stage-pace')
  async pace(@CurrentActor() actor: Actor): Promise<StagePace> {
    const measures = await this.pipelines.pace(actor);
    return {
      pace: measures.flatMap(({ stage, stays, medianDays }) =>
        stays < ENOUGH_STAYS || medianDays === null ? [] : [{ stage, days: medianDays }],
      ),
    };
  }

  /** Changes that stand. What was undone, and the undoing of it, are no part of the way. */
  private changes(actor: Actor, deal: number): Promise<Change[]> {
    const hidden = policyOf(actor).hidden('deal');
    return this.database.reading.manager
      .createQueryBuilder()
      .select(['c.at AS at', 'c.field AS field', 'c.old AS old', 'c.new AS new'])
      .from('change', 'c')
      .innerJoin('unit', 'u', 'u.id = c.unit')
      .where(`c.object = 'deal' AND c.record = :deal AND c.kind = 'changed'`, { deal })
      .andWhere('c.field IN (:...fields)', { fields: ['', ...DRAWN.filter((field) => !hidden.has(field))] })
      .andWhere(`u.undoneBy IS NULL AND u.through <> 'undo'`)
      .orderBy('c.id')
      .getRawMany<Change>();
  }

  /** When somebody called, met or wrote about it, the earliest first. */
  private async touches(actor: Actor, deal: number): Promise<string[]> {
    const about: Condition = { field: 'deal', is: 'anyOf', value: [deal] };
    const done: Condition = {
      join: 'all',
      of: [
        about,
        { field: 'doneAt', is: 'isNotEmpty' },
        { field: 'kind', is: 'noneOf', value: kindsWithoutTouch },
      ],
    };
    const instants = async (object: ObjectKey, where: Condition, field: string) => {
      const question = { ...ask(object, where), columns: [field] };
      const { rows } = await this.gate.records(actor, question, { offset: 0, limit: MOST });
      return rows.map((row: AnyRecord) => String(row[field]));
    };
    const all = await Promise.all([instants('activity', done, 'doneAt'), instants('mail', about, 'sentAt')]);
    return all.flat().sort();
  }
}
