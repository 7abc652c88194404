import { Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import {
  policyOf,
  type Actor,
  type AnyRecord,
  type FormFigures,
  type SubmissionsPage,
  type Written,
} from '@zawn/core';
import { Problem } from '../../platform/http/problem';
import { recordId } from '../../platform/http/record-id';
import { type WriteContext } from '../../kernel/records/door';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { Forms } from './forms';
import { ForPrograms } from '../../platform/sessions/scopes';

function mayLook(actor: Actor): void {
  if (!policyOf(actor).may('setUp'))
    throw new Problem('not-allowed', 'Only operations can look at what forms brought.');
}

@ForPrograms()
@Controller('api/v1')
export class SubmissionsController {
  constructor(private readonly forms: Forms) {}

  /** How much came through each form. */
  @Get('forms/sent')
  async sent(@CurrentActor() actor: Actor): Promise<{ forms: FormFigures[] }> {
    mayLook(actor);
    return { forms: await this.forms.figures() };
  }

  /** What was sent through a form, newest first. */
  @Get('forms/:id/submissions')
  page(
    @CurrentActor() actor: Actor,
    @Param('id') id: string,
    @Query('before') before?: string,
  ): Promise<SubmissionsPage> {
    mayLook(actor);
    return this.forms.submissions(actor, recordId(id), before === undefined ? undefined : recordId(before));
  }

  /** Makes a lead of what was held back. */
  @Post('submissions/:id/take')
  @HttpCode(201)
  take(@ByHand() writing: WriteContext, @Param('id') id: string): Promise<Written<AnyRecord>> {
    mayLook(writing.actor);
    return this.forms.take(writing, recordId(id));
  }
}
