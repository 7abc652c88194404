import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type FiguresAnswer, type RecordsPage } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor, IsProgram } from '../../platform/sessions/current-actor';
import { invalidInput } from '../../platform/http/problem';
import { Gate } from './gate';
import { Questions } from './questions';
import { LONGEST_CURSOR, placeIn, withCursors } from './cursors';
import { ForPrograms, ForTokens } from '../../platform/sessions/scopes';

/** Records of a page, unless another number is asked for, and at most. */
export const PAGE = 100;
export const LONGEST_PAGE = 1000;
/** Rows from which a table can be read on: further down nobody scrolls. */
const DEEPEST = 1_000_000;

/** What is asked for records, and for figures. */
export const recordsBody = Joi.object<{ question: unknown; cursor?: string; offset?: number; limit: number }>(
  {
    question: Joi.object().unknown().required().meta({ 'x-schema': 'Question' }),
    cursor: Joi.string().max(LONGEST_CURSOR),
    offset: Joi.number().integer().min(0).max(DEEPEST),
    limit: Joi.number().integer().min(1).max(LONGEST_PAGE).default(PAGE),
  },
).oxor('cursor', 'offset');
export const figuresBody = Joi.object<{ questions: unknown[] }>({
  questions: Joi.array()
    .items(Joi.object().unknown().meta({ 'x-schema': 'Question' }))
    .min(1)
    .max(20)
    .required(),
});

@ForPrograms()
@Controller('api/v1/questions')
export class QuestionsController {
  constructor(
    private readonly gate: Gate,
    private readonly questions: Questions,
  ) {}

  /**
   * Records, a page at a time: `next` is the cursor of the page that follows, `previous` of the one before. `offset`
   * lands at a row, for a table that a person drags there; from where it landed cursors go on in both directions. With
   * a token only cursors are taken: rows read by number are repeated or lost while others write.
   */
  @ForTokens('read', 'all')
  @Post('records')
  @HttpCode(200)
  async records(
    @CurrentActor() actor: Actor,
    @IsProgram() isProgram: boolean,
    @CheckedBody(recordsBody) { question, cursor, offset, limit }: CheckedAs<typeof recordsBody>,
  ): Promise<RecordsPage> {
    if (isProgram && offset !== undefined)
      throw invalidInput([{ field: 'offset', message: 'Go on with `cursor`: `next` of the page before' }]);
    const asked = await this.questions.checked(question);
    // A program goes on with what it gets, so it is told instead of being given more than it asked for.
    if (isProgram) await this.gate.mustBeWhole(actor, asked);
    const from = placeIn(asked, cursor);
    return withCursors(asked, await this.gate.recordsBeside(actor, asked, { from, skip: offset, limit }));
  }

  /** Figures for several questions at once, in their order. */
  @ForTokens('read', 'all')
  @Post('figures')
  @HttpCode(200)
  async figures(
    @CurrentActor() actor: Actor,
    @IsProgram() isProgram: boolean,
    @CheckedBody(figuresBody) body: CheckedAs<typeof figuresBody>,
  ): Promise<{ answers: FiguresAnswer[] }> {
    const questions = await Promise.all(body.questions.map((question) => this.questions.checked(question)));
    if (isProgram) for (const question of questions) await this.gate.mustBeWhole(actor, question);
    return {
      answers: await Promise.all(questions.map((question) => this.gate.figures(actor, question, 'leftOut'))),
    };
  }
}
