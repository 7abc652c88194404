import { Controller, Get, Query } from '@nestjs/common';
import {
  fieldOf,
  type Actor,
  type AnyRecord,
  type Guided,
  type GuideAnswer,
  type GuideStep,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { RecordId, ToRecordId } from '../../platform/http/checked';
import { notFound } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';
import { Gate } from '../../kernel/questions/gate';
import { guideLines } from './guides';

/** What guides ask of the records that they lead along. */
@ForPrograms()
@Controller('api/v1')
export class GuidesController {
  constructor(
    private readonly gate: Gate,
    private readonly database: Database,
  ) {}

  /**
   * What the guides ask of a deal: of the stage it is in, and what of earlier ones stayed open; with `to`, also what is
   * asked on the way to that stage.
   */
  @Get('deals/:id/guide')
  async dealGuide(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Query('to', new ToRecordId()) to?: number,
  ): Promise<GuideAnswer> {
    const deal = await this.gate.find(actor, 'deal', id);
    const account = Number(deal.account);
    const found = deal.account === null ? undefined : await this.gate.visible(actor, 'account', [account]);
    return this.linesOf(actor, 'deal', deal, { to, account: found?.get(account) });
  }

  /**
   * What the guides ask of a lead: of the status it is in, and what of earlier ones stayed open; with `to`, the key of a
   * status, also what is asked on the way there.
   */
  @Get('leads/:id/guide')
  async leadGuide(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Query('to') to?: string,
  ): Promise<GuideAnswer> {
    const lead = await this.gate.find(actor, 'lead', id);
    const { catalogue } = await this.gate.context(actor);
    const statuses = fieldOf(catalogue, 'lead', 'status')?.choices ?? [];
    if (to !== undefined && !statuses.some(({ key }) => key === to)) throw notFound('That status');
    return this.linesOf(actor, 'lead', lead, { to });
  }

  private async linesOf(
    actor: Actor,
    object: Guided,
    record: AnyRecord,
    asked: { to?: GuideStep | undefined; account?: AnyRecord | undefined },
  ): Promise<GuideAnswer> {
    const { catalogue } = await this.gate.context(actor);
    const { manager } = this.database.reading;
    return { lines: await guideLines({ manager, catalogue, ...asked }, object, record) };
  }
}
