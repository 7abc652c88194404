import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  ask,
  gridColumns,
  runnable,
  type Actor,
  type DealGridAnswer,
  type DealGridRequest,
  type Measure,
  type Question,
} from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Gate } from '../../kernel/questions/gate';
import { Questions } from '../../kernel/questions/questions';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';

const id = Joi.number().integer().positive().max(Number.MAX_SAFE_INTEGER);
const MOST_STRIPS = 500;
const MOST_OPENED = 60;

const request = Joi.object<DealGridRequest>({
  pipeline: id.required(),
  where: Joi.object().unknown(),
  each: Joi.number().integer().min(1).max(50).default(4),
  more: Joi.array()
    .items(
      Joi.object({
        stage: id.required(),
        column: Joi.string().max(10).required(),
        count: Joi.number().integer().min(1).max(MOST_STRIPS).required(),
      }),
    )
    .max(MOST_OPENED)
    .default([]),
});

const MEASURES: readonly Measure[] = [
  { as: 'count' },
  { as: 'sum', of: 'value' },
  { as: 'sum', of: 'weighted' },
];
const ORDER = [
  { field: 'needsAttention', descending: true },
  { field: 'value', descending: true },
];

/** What a strip is drawn from and moved by. */
const ON_A_STRIP = [
  'name',
  'account',
  'owner',
  'pipeline',
  'stage',
  'stageSince',
  'outcome',
  'closeOn',
  'value',
  'currency',
  'nextStepOn',
  'timesPushed',
  'deciderNamed',
  'needsAttention',
];

/** Open deals by stage and expected close. */
@Controller('api/v1/deals')
export class DealGridController {
  constructor(
    private readonly gate: Gate,
    private readonly questions: Questions,
  ) {}

  /** The sums of every cell over all deals, however many, and the strips that are looked at first. */
  @ForTokens('read', 'all')
  @Post('grid')
  @HttpCode(200)
  async grid(
    @CurrentActor() actor: Actor,
    @CheckedBody(request) { pipeline, where, each, more }: CheckedAs<typeof request>,
  ): Promise<DealGridAnswer> {
    const asked = await this.questions.checkedFor('deal', { ...ask('deal'), ...(where ? { where } : {}) });
    const context = await this.gate.context(actor);
    const { question: known, leftOut } = runnable(asked, context);
    const question: Question = {
      ...ask(
        'deal',
        known.where,
        { field: 'outcome', is: 'anyOf', value: ['open'] },
        { field: 'pipeline', is: 'anyOf', value: [pipeline] },
      ),
      sort: ORDER,
    };
    const bands = { field: 'closeOn', bands: gridColumns(context.today) };
    const firsts = { each, more: more.map(({ stage: row, column: band, count }) => ({ row, band, count })) };
    const [figures, { rows, names }] = await Promise.all([
      this.gate.figuresInBands(actor, question, 'stage', bands, MEASURES),
      this.gate.firstInBands(actor, question, 'stage', bands, firsts, ON_A_STRIP),
    ]);
    const cells = figures.cells.map(({ row: stage, band: column, figures: [count, value, weighted] }) => ({
      stage,
      column,
      count: Number(count),
      value: Number(value ?? 0),
      weighted: Number(weighted ?? 0),
    }));
    return { cells, unrated: figures.unrated, rows, names, leftOut };
  }
}
