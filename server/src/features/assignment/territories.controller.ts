import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type Job, type TerritoryKind, type TerritoryPreview } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { May } from '../../platform/sessions/may';
import { ByHand } from '../../kernel/records/by-hand';
import { type WriteContext } from '../../kernel/records/door';
import { Territories } from './territories';

const which = Joi.object<{ object: TerritoryKind }>({
  object: Joi.string().valid('account', 'lead').required(),
});

@May('setUpAssignment', 'Your role does not let you set up territories.')
@Controller('api/v1/territory-work')
export class TerritoriesController {
  constructor(private readonly territories: Territories) {}

  /** What putting every account, or lead, into its territory would come to. Nothing is written. */
  @Post('preview')
  @HttpCode(200)
  previewTerritories(
    @CurrentActor() actor: Actor,
    @CheckedBody(which) { object }: CheckedAs<typeof which>,
  ): Promise<TerritoryPreview> {
    return this.territories.preview(actor, object);
  }

  /** Puts every account, or lead, into its territory. The answer is the job, which may have ended already. */
  @Post()
  @HttpCode(200)
  putIntoTerritories(
    @ByHand() writing: WriteContext,
    @CheckedBody(which) { object }: CheckedAs<typeof which>,
  ): Promise<Job> {
    return this.territories.run(writing, object);
  }
}
