import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { answerReport, type Actor, type ReportAnswer, type ReportRequest } from '@zawn/core';
import { checkReport } from '@zawn/core/validation';
import { Gate } from '../../kernel/questions/gate';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { invalidInput } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';

const request = Joi.object<ReportRequest>({ design: Joi.object().unknown().required() });

/** Reports: questions with figures, asked again whenever they are looked at. */
@Controller('api/v1/reports')
export class ReportsController {
  constructor(private readonly gate: Gate) {}

  /** The figures of a report as they are now, for whoever asks; it need not be kept. */
  @ForTokens('read', 'all')
  @Post('answer')
  @HttpCode(200)
  async answer(
    @CurrentActor() actor: Actor,
    @CheckedBody(request) { design }: CheckedAs<typeof request>,
  ): Promise<ReportAnswer> {
    const context = await this.gate.context(actor);
    const { value, faults } = checkReport(design, context.catalogue);
    if (!value)
      throw invalidInput(faults.map(({ field, message }) => ({ field: `design.${field}`, message })));
    return answerReport(value, context, (question) => this.gate.figures(actor, question, 'leftOut'));
  }
}
