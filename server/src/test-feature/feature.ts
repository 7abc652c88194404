import { Controller, Get, Injectable, Module } from '@nestjs/common';
import { Table, type EntityManager, type MigrationInterface, type QueryRunner } from 'typeorm';
import { type Actor, type AnyRecord, type ObjectKey } from '@zawn/core';
import { writeDerived, type Derivation } from '../kernel/records/derivation';
import { type RecordHooks } from '../kernel/records/record-hooks';
import { Gate } from '../kernel/questions/gate';
import { InTimeline, RecordTimeline } from '../kernel/timeline/timeline-source';
import { head, integer, links, money, optional, text } from '../platform/database/migrations/columns';
import { RecordId } from '../platform/http/checked';
import { CurrentActor } from '../platform/sessions/current-actor';
import { type Features } from '../app.module';

/** The keys are those of objects that the compiler does not know. */
const key = (name: string) => name as ObjectKey;

const tables = {
  binder: [...head, text('name'), integer('owner'), optional(integer('pieces'))],
  estimate: [
    ...head,
    text('name'),
    ...links('account', 'filedIn'),
    text('currency'),
    optional(money('total')),
    optional(integer('pieces')),
    integer('owner'),
  ],
  estimateLine: [
    ...head,
    ...['estimate', 'position', 'quantity', 'price'].map(integer),
    text('name'),
    optional(integer('amount')),
  ],
};

export class Estimating1799999999000 implements MigrationInterface {
  name = 'Estimating1799999999000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, columns] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns }));
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(tables)) await runner.dropTable(name);
  }
}

const lineHooks: RecordHooks = {
  object: key('estimateLine'),
  beforeWrite(_unit, next, before) {
    const { quantity, price } = { ...before, ...next };
    next.amount = Number(quantity) * Number(price);
    return Promise.resolve();
  },
};

const estimateHooks: RecordHooks = {
  object: key('estimate'),
  beforeWrite(_unit, next, _before, { lines }) {
    if (lines) next.total = lines.reduce((sum, { amount }) => sum + Number(amount), 0);
    return Promise.resolve();
  },
};

/** How many pieces the records that link to these hold together. */
async function sums(
  manager: EntityManager,
  from: string,
  column: string,
  link: string,
  ids: readonly number[],
) {
  const rows = await manager
    .createQueryBuilder()
    .select(`r.${link}`, 'id')
    .addSelect(`SUM(r.${column})`, 'sum')
    .from(from, 'r')
    .where(`r.${link} IN (:...ids) AND r.deletedAt IS NULL`, { ids })
    .groupBy(`r.${link}`)
    .getRawMany<{ id: number; sum: number }>();
  return new Map(rows.map(({ id, sum }) => [id, sum]));
}

/** Pieces of a record as the sum of those that link to it. */
const piecesOf = (object: string, from: string, column: string, link: string): Derivation => ({
  object: key(object),
  async derive({ manager }, ids) {
    const found = await sums(manager, from, column, link, ids);
    const changed: number[] = [];
    for (const id of ids) {
      const pieces = found.get(id) ?? 0;
      const row = await manager.findOneBy<AnyRecord>(object, { id });
      if (!row || row.pieces === pieces) continue;
      writeDerived({ manager }, key(object), id, { pieces });
      changed.push(id);
    }
    return changed;
  },
});

@Controller('api/v1/estimates/:id/average')
class AverageController {
  constructor(private readonly gate: Gate) {}

  /** What a piece of an estimate costs on average. */
  @Get()
  async average(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<{ average: number }> {
    const { total, pieces } = await this.gate.find(actor, key('estimate'), id);
    return { average: Number(total) / Number(pieces) };
  }
}

@InTimeline()
@Injectable()
class EstimateTimeline extends RecordTimeline {
  readonly kind = 'estimate' as 'note';
  readonly place = 9;
  protected readonly instant = 'createdAt';
  protected readonly says = ['name'];
}

@Module({ controllers: [AverageController], providers: [EstimateTimeline] })
class EstimateModule {}

/** What the lists take of the feature. */
export const testFeature: Features = {
  modules: [EstimateModule],
  hooks: [lineHooks, estimateHooks],
  derivations: [
    piecesOf('binder', 'estimate', 'pieces', 'filedIn'),
    piecesOf('estimate', 'estimateLine', 'quantity', 'estimate'),
  ],
};
