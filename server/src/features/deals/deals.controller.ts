import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { daysByStage, type Actor, type AnyRecord, type Day, type StageDays, type Written } from '@zawn/core';
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
import { closeDeal, correctEnding } from './closing';
import { correcting, losing, winning } from './closing-schema';
import { renewDeal } from './renewals';
import { ForPrograms } from '../../platform/sessions/scopes';

const moving = Joi.object<{ pipeline: number; stage: number }>({
  pipeline: Joi.number().integer().positive().required().label('Pipeline'),
  stage: Joi.number().integer().positive().required().label('Stage'),
});

/** Winning, losing and reopening, actions on a deal and never stages, and moving it to another pipeline. */
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

  /** Closes an open deal as won, at its final value: today, where no other day is given. */
  @Post('win')
  @HttpCode(200)
  async win(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(winning) details: CheckedAs<typeof winning>,
  ): Promise<Written<AnyRecord>> {
    return this.close(writing, id, version, 'won', details);
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

  /** Says anew how a closed deal ended; what is left out stays, and so does which way it ended. */
  @Post('ending')
  @HttpCode(200)
  async correctEnding(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(correcting) said: CheckedAs<typeof correcting>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) =>
      correctEnding(unit, await unit.find('deal', id), said, version),
    );
  }

  /** Moves an open deal to a stage of another pipeline. */
  @Post('pipeline')
  @HttpCode(200)
  async movePipeline(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(moving) { pipeline, stage }: CheckedAs<typeof moving>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const deal = await unit.find('deal', id);
      const to = await unit.find('pipeline', pipeline);
      if (deal.outcome !== 'open')
        throw new Problem('conflict', 'This deal is closed. Reopen it before moving it to another pipeline.');
      if (deal.pipeline === pipeline)
        throw new Problem('conflict', `This deal is in ${String(to.name)} already.`);
      if (to.retired === true)
        throw new Problem('conflict', `${String(to.name)} is retired. Choose another pipeline.`);
      unit.label = `Moved “${String(deal.name)}” to the pipeline ${String(to.name)}`;
      return unit.change('deal', id, { pipeline, stage }, { version, setter: 'feature' });
    });
  }

  /** Opens a closed deal again in the stage it left from. What was said about its end stays with it. */
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
      const timesReopened = Number(deal.timesReopened ?? 0) + 1;
      const reopened = { outcome: 'open', closedOn: null, stageSince: unit.at, timesReopened };
      return unit.change('deal', deal.id, reopened, { version, setter: 'feature' });
    });
  }

  /** Makes the renewal of a won deal, once: same account, contacts and lines, due as its pipeline says. */
  @Post('renew')
  @HttpCode(200)
  async renew(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => renewDeal(unit, await unit.find('deal', id)));
  }

  private async close(
    writing: WriteContext,
    id: number,
    version: number,
    outcome: 'won' | 'lost',
    details: Values & { closedOn?: Day },
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) =>
      closeDeal(unit, await unit.find('deal', id), { ...details, outcome }, version),
    );
  }
}
