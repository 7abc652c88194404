import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type FigureRow, type Question, type RecordsPage } from '@zawn/core';
import { checkQuestion } from '@zawn/core/validation';
import { checked } from '../http/checked';
import { invalidInput, Problem } from '../http/problem';
import { Asking } from '../sessions/asking';
import { Gate } from './gate';

const PAGE = 100;
const LONGEST_PAGE = 1000;

const recordsBody = Joi.object<{ question: unknown; cursor?: string; limit: number }>({
  question: Joi.object().unknown().required(),
  cursor: Joi.string().max(40),
  limit: Joi.number().integer().min(1).max(LONGEST_PAGE).default(PAGE),
});
const figuresBody = Joi.object<{ questions: unknown[] }>({
  questions: Joi.array().items(Joi.object().unknown()).min(1).max(20).required(),
});

/** Where a page begins, as callers hand it back; they need not know that it is a count. */
function offsetOf(cursor: string | undefined): number {
  if (cursor === undefined) return 0;
  const match = /^after-(\d{1,9})$/.exec(cursor);
  if (!match) throw new Problem('malformed-request', 'This cursor is not one that a page was answered with.');
  return Number(match[1]);
}

function questionIn(value: unknown): Question {
  const { value: question, faults } = checkQuestion(value);
  if (!question) throw invalidInput(faults);
  return question;
}

@Controller('api/v1/questions')
export class QuestionsController {
  constructor(private readonly gate: Gate) {}

  /** Records, a page at a time; `next` is the cursor of the page that follows. */
  @Post('records')
  @HttpCode(200)
  async records(@Asking() actor: Actor, @Body() body: unknown): Promise<RecordsPage> {
    const { question, cursor, limit } = checked(recordsBody, body);
    const offset = offsetOf(cursor);
    const answer = await this.gate.records(actor, questionIn(question), { offset, limit });
    const end = offset + answer.rows.length;
    return { ...answer, next: end < answer.total ? `after-${end}` : null };
  }

  /** Figures for several questions at once, in their order. */
  @Post('figures')
  @HttpCode(200)
  async figures(@Asking() actor: Actor, @Body() body: unknown): Promise<{ answers: FigureRow[][] }> {
    const questions = checked(figuresBody, body).questions.map(questionIn);
    return { answers: await Promise.all(questions.map((question) => this.gate.figures(actor, question))) };
  }
}
