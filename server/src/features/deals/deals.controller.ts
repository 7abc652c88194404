import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { daysByStage, type Actor, type AnyRecord, type StageDays, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { Clock } from '../../platform/clock/clock';
import { Organisation } from '../../kernel/organisation/organisation';
import { Database } from '../../platform/database/database';
import { type StagePeriodRow } from '../../platform/database/rows';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { CurrentActor, Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { closeDeal } from './closing';
import { ForPrograms } from '../../platform/sessions/scopes';

const winning = Joi.object<{ value?: number; wonBecause?: string | null }>({
  value: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).label('Final value'),
  wonBecause: Joi.string().max(200).allow('', null).label('Won because'),
});

const losing = Joi.object<{
  lossReason: string;
  lossComment?: string | null;
  lostTo?: string | null;
  tryAgainOn?: string | null;
}>({
  lossReason: Joi.string()
    .max(60)
    .required()
    .label('Reason')
    .messages({ 'any.required': 'Reason is missing' }),
  lossComment: Joi.string().max(2000).allow('', null).label('Comment'),
  lostTo: Joi.string().max(200).allow('', null).label('Lost to'),
  tryAgainOn: Joi.string().max(10).allow('', null).label('Try again on'),
});

/** Winning, losing and reopening: actions on a deal, never stages. */
@ForPrograms()
@Controller('api/v1/deals/:id')
export class DealsController {
  constructor(
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {}

  /** Calendar days in each stage so far, from the stage history. */
  @Get('stages')
  async stages(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<StageDays> {
    const deal = await this.gate.find(actor, 'deal', id);
    const periods = await this.database.reading.manager.find<StagePeriodRow>('stagePeriod', {
      where: { deal: deal.id },
      order: { id: 'ASC' },
    });
    const { timeZone } = await this.organisation.settings();
    const times = daysByStage(periods, this.clock.today(timeZone), timeZone);
    return { days: [...times].map(([stage, time]) => ({ stage, ...time })) };
  }

  /** Closes an open deal as won, at its final value. */
  @Post('win')
  @HttpCode(200)
  async win(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(winning) { value, wonBecause = null }: CheckedAs<typeof winning>,
  ): Promise<Written<AnyRecord>> {
    const final: Values = value === undefined ? { wonBecause } : { wonBecause, value };
    return this.close(writing, id, version, 'won', final);
  }

  /** Closes an open deal as lost, for a reason from the fixed list; with a date to try again, plans a call on it. */
  @Post('lose')
  @HttpCode(200)
  async lose(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(losing) details: CheckedAs<typeof losing>,
  ): Promise<Written<AnyRecord>> {
    return this.close(writing, id, version, 'lost', details);
  }

  /** Opens a closed deal again in the stage it left from. The log keeps that it was closed. */
  @Post('reopen')
  @HttpCode(200)
  async reopen(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const deal = await unit.find('deal', id);
      unit.mustMay('closeDeals');
      if (deal.outcome === 'open') throw new Problem('conflict', 'This deal is open already.');
      unit.label = `Reopened “${String(deal.name)}”`;
      const cleared = {
        wonBecause: null,
        lossReason: null,
        lossComment: null,
        lostTo: null,
        tryAgainOn: null,
      };
      const reopened = { outcome: 'open', closedOn: null, stageSince: unit.at, ...cleared };
      return unit.change('deal', deal.id, reopened, { version, setter: 'feature' });
    });
  }

  private async close(
    writing: WriteContext,
    id: number,
    version: number,
    outcome: 'won' | 'lost',
    details: Values,
  ): Promise<Written<AnyRecord>> {
    const { timeZone } = await this.organisation.settings();
    const closedOn = this.clock.today(timeZone);
    return this.door.write(writing, async (unit) =>
      closeDeal(unit, await unit.find('deal', id), { ...details, outcome, closedOn }, version),
    );
  }
}
