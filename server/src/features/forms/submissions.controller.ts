import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import { type Actor, type AnyRecord, type FormFigures, type SubmissionsPage, type Written } from '@zawn/core';
import { RecordId, Before } from '../../platform/http/checked';
import { May } from '../../platform/sessions/may';
import { type WriteContext } from '../../kernel/records/door';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { Forms } from './forms';
import { ForPrograms } from '../../platform/sessions/scopes';

@May('setUpCapture', 'Your role does not let you look at what forms brought.')
@ForPrograms()
@Controller('api/v1')
export class SubmissionsController {
  constructor(private readonly forms: Forms) {}

  /** How much came through each form. */
  @Get('forms/sent')
  async sent(): Promise<{ forms: FormFigures[] }> {
    return { forms: await this.forms.figures() };
  }

  /** What was sent through a form, newest first. */
  @Get('forms/:id/submissions')
  page(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Before() before: number | undefined,
  ): Promise<SubmissionsPage> {
    return this.forms.submissions(actor, id, before);
  }

  /** Makes a lead of what was held back. */
  @Post('submissions/:id/take')
  @HttpCode(201)
  take(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<Written<AnyRecord>> {
    return this.forms.take(writing, id);
  }
}
