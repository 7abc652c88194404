import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  periodUnits,
  progressOf,
  allOf,
  ask,
  periodQuestions,
  winRate,
  type Actor,
  type Condition,
  type ProgressAnswer,
  type ProgressRequest,
  type Question,
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
    const questions = periodQuestions(whose, period);
    let unrated = 0;
    const figures = async (question: Question) => {
      const answer = await this.gate.figures(actor, question);
      unrated += answer.unrated;
      return answer.rows[0]?.figures ?? [];
    };
    const counted = (...conditions: Condition[]) =>
      this.gate.count(actor, ask('deal', allOf(OPEN, whose, ...conditions)));
    const [won, lost, open, [target = null], adrift, stale] = await Promise.all([
      figures(questions.won),
      figures(questions.lost),
      figures(questions.open),
      figures(questions.target),
      counted({ field: 'nextStepOn', is: 'isEmpty' }),
      counted({ field: 'stale', is: 'is', value: true }),
    ]);
    const closed = ([count, value]: readonly (number | null)[]) => ({ count: count ?? 0, value: value ?? 0 });
    const expected = { ...closed(open), weighted: open[2] ?? 0 };
    const line = {
      won: closed(won).value,
      open: expected.value,
      weightedOpen: expected.weighted,
      target: target || null,
    };
    return {
      won: closed(won),
      lost: closed(lost),
      open: expected,
      target: line.target,
      ...progressOf(line),
      winRate: winRate(closed(won), closed(lost)),
      unrated,
      adrift,
      stale,
    };
  }
}
