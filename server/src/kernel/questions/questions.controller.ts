import { createHash } from 'node:crypto';
import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type FiguresAnswer, type Question, type RecordsPage } from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { CurrentActor, IsProgram } from '../../platform/sessions/current-actor';
import { Gate } from './gate';
import { Questions } from './questions';
import { type PlaceValue } from './to-sql';
import { ForPrograms, ForTokens } from '../../platform/sessions/scopes';

const PAGE = 100;
const LONGEST_PAGE = 1000;
const LONGEST_CURSOR = 100_000;
/** Rows from which a table can be read on: further down nobody scrolls. */
const DEEPEST = 1_000_000;

/** What is asked for records, and for figures. */
export const recordsBody = Joi.object<{ question: unknown; cursor?: string; offset?: number; limit: number }>(
  {
    question: Joi.object().unknown().required(),
    cursor: Joi.string().max(LONGEST_CURSOR),
    offset: Joi.number().integer().min(0).max(DEEPEST),
    limit: Joi.number().integer().min(1).max(LONGEST_PAGE).default(PAGE),
  },
).oxor('cursor', 'offset');
export const figuresBody = Joi.object<{ questions: unknown[] }>({
  questions: Joi.array().items(Joi.object().unknown()).min(1).max(20).required(),
});

/** By what a question puts its answer in order: a place in one order is none in another. */
const orderOf = ({ object, sort = [] }: Question) =>
  createHash('sha256')
    .update(JSON.stringify([object, sort]))
    .digest('base64url')
    .slice(0, 12);

/** Where the next page begins, as callers hand it back; they need not know what it is made of. */
const cursorOf = (question: Question, place: readonly PlaceValue[]): string =>
  Buffer.from(JSON.stringify([orderOf(question), ...place])).toString('base64url');

const places = Joi.array<PlaceValue[]>()
  .items(Joi.string().allow(''), Joi.number().unsafe(), null)
  .min(2)
  .max(40);

/** @throws Problem `malformed-request` for a cursor that no page of this question was answered with. */
function placeIn(question: Question, cursor: string | undefined): PlaceValue[] | undefined {
  if (cursor === undefined) return undefined;
  try {
    const raw: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8'));
    const [order, ...place] = checked(places as Joi.Schema, raw) as PlaceValue[];
    if (order === orderOf(question)) return place;
  } catch {
    // Said below.
  }
  throw new Problem(
    'malformed-request',
    'This cursor is not one that a page of this question was answered with.',
  );
}

@ForPrograms()
@Controller('api/v1/questions')
export class QuestionsController {
  constructor(
    private readonly gate: Gate,
    private readonly questions: Questions,
  ) {}

  /**
   * Records, a page at a time: `next` is the cursor of the page that follows. `offset` jumps to a row, for a table that
   * is scrolled there; from a row there is no going on, as others may have written meanwhile.
   */
  @ForTokens('read', 'all')
  @Post('records')
  @HttpCode(200)
  async records(
    @CurrentActor() actor: Actor,
    @IsProgram() isProgram: boolean,
    @Body() body: unknown,
  ): Promise<RecordsPage> {
    const { question, cursor, offset, limit } = checked(recordsBody, body);
    const asked = await this.questions.checked(question);
    // A program goes on with what it gets, so it is told instead of being given more than it asked for.
    if (isProgram) await this.gate.mustBeWhole(actor, asked);
    if (offset !== undefined)
      return { ...(await this.gate.records(actor, asked, { offset, limit })), next: null };
    const after = placeIn(asked, cursor);
    const { place, ...answer } = await this.gate.recordsBehind(actor, asked, { after, limit });
    return { ...answer, next: place && cursorOf(asked, place) };
  }

  /** Figures for several questions at once, in their order. */
  @ForTokens('read', 'all')
  @Post('figures')
  @HttpCode(200)
  async figures(
    @CurrentActor() actor: Actor,
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
