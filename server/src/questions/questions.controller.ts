import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type FiguresAnswer, type RecordsPage } from '@zawn/core';
import { checked } from '../http/checked';
import { Problem } from '../http/problem';
import { Asking, IsProgram } from '../sessions/asking';
import { Gate } from './gate';
import { Questions } from './questions';
import { ForPrograms, ForTokens } from '../sessions/scopes';

const PAGE = 100;
const LONGEST_PAGE = 1000;
/** Rows from which a table can be read on: further down nobody scrolls. */
const DEEPEST = 1_000_000;

/** What is asked for records, and for figures. */
export const recordsBody = Joi.object<{ question: unknown; cursor?: string; offset?: number; limit: number }>(
  {
    question: Joi.object().unknown().required(),
    cursor: Joi.string().max(40),
    offset: Joi.number().integer().min(0).max(DEEPEST),
    limit: Joi.number().integer().min(1).max(LONGEST_PAGE).default(PAGE),
  },
).oxor('cursor', 'offset');
export const figuresBody = Joi.object<{ questions: unknown[] }>({
  questions: Joi.array().items(Joi.object().unknown()).min(1).max(20).required(),
});

/** Where a page begins, as callers hand it back; they need not know that it is a count. */
function offsetOf(cursor: string | undefined): number {
  if (cursor === undefined) return 0;
  const match = /^after-(\d{1,9})$/.exec(cursor);
  if (!match) throw new Problem('malformed-request', 'This cursor is not one that a page was answered with.');
  return Number(match[1]);
}

@ForPrograms()
@Controller('api/v1/questions')
export class QuestionsController {
  constructor(
    private readonly gate: Gate,
    private readonly questions: Questions,
  ) {}

  /** Records, a page at a time: `next` is the cursor of the page that follows, `offset` jumps to a row. */
  @ForTokens('read', 'all')
  @Post('records')
  @HttpCode(200)
  async records(
    @Asking() actor: Actor,
    @IsProgram() isProgram: boolean,
    @Body() body: unknown,
  ): Promise<RecordsPage> {
    const { question, cursor, offset = offsetOf(cursor), limit } = checked(recordsBody, body);
    const asked = await this.questions.checked(question);
    // A program goes on with what it gets, so it is told instead of being given more than it asked for.
    if (isProgram) await this.gate.mustBeWhole(actor, asked);
    const answer = await this.gate.records(actor, asked, { offset, limit });
    const end = offset + answer.rows.length;
    return { ...answer, next: end < answer.total ? `after-${end}` : null };
  }

  /** Figures for several questions at once, in their order. */
  @ForTokens('read', 'all')
  @Post('figures')
  @HttpCode(200)
  async figures(
    @Asking() actor: Actor,
    @IsProgram() isProgram: boolean,
    @Body() body: unknown,
  ): Promise<{ answers: FiguresAnswer[] }> {
    const questions = await Promise.all(
      checked(figuresBody, body).questions.map((question) => this.questions.checked(question)),
    );
    if (isProgram) for (const question of questions) await this.gate.mustBeWhole(actor, question);
    return { answers: await Promise.all(questions.map((question) => this.gate.figures(actor, question))) };
  }
}
