import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  periodUnits,
  progressIn,
  progressReport,
  allOf,
  ask,
  answerReport,
  type Actor,
  type Condition,
  type ProgressAnswer,
  type ProgressRequest,
} from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Gate } from '../../kernel/questions/gate';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';

const request = Joi.object<ProgressRequest>({
  period: Joi.object({
    unit: Joi.string()
      .valid(...periodUnits)
      .required(),
    offset: Joi.number().integer().min(-400).max(400).required(),
  }).required(),
  owners: Joi.array().items(Joi.number().integer().positive()).min(1).max(500),
});

const OPEN: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };

/** How far a person or team has come in a period, by the same functions as the pages that show it. */
@Controller('api/v1/forecast')
export class ProgressController {
  constructor(private readonly gate: Gate) {}

  /** Attainment, gap, coverage and win rate of a period, and how many open deals are adrift or stale now. */
  @ForTokens('read', 'all')
  @Post('progress')
  @HttpCode(200)
  async progress(
    @CurrentActor() actor: Actor,
    @CheckedBody(request) { period, owners }: CheckedAs<typeof request>,
  ): Promise<ProgressAnswer> {
    const whose: Condition | undefined = owners && { field: 'owner', is: 'anyOf', value: owners };
    const design = progressReport(whose, period);
    const context = await this.gate.context(actor);
    const counted = (...conditions: Condition[]) =>
      this.gate.count(actor, ask('deal', allOf(OPEN, whose, ...conditions)));
    const [{ rows, unrated }, adrift, stale] = await Promise.all([
      answerReport(design, context, (question) => this.gate.figures(actor, question, 'leftOut')),
      counted({ field: 'nextStepOn', is: 'isEmpty' }),
      counted({ field: 'stale', is: 'is', value: true }),
    ]);
    return {
      ...progressIn(design, rows[0]),
      unrated: unrated.reduce((sum, { count }) => sum + count, 0),
      adrift,
      stale,
    };
  }
}
