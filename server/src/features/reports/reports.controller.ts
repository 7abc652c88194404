import { Controller, Get, HttpCode, Post, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import {
  answerReport,
  ask,
  leftOutInWords,
  movementGroups,
  type Actor,
  type MovementAnswer,
  type MovementQuestion,
  type ReportAnswer,
  type ReportDesign,
  type ReportFileRequest,
  type ReportRequest,
  type Usage,
} from '@zawn/core';
import { checkReport, validDay } from '@zawn/core/validation';
import { Gate } from '../../kernel/questions/gate';
import { Questions } from '../../kernel/questions/questions';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { invalidInput } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';
import { Usages } from '../../kernel/views/usages';
import { Movements } from './movements';
import {
  fileTypes as types,
  drawingIn,
  mayTakeOut,
  ReportFiles,
  sendFile,
  validDrawing,
} from './report-files';
import { tableOf } from './report-table';

const request = Joi.object<ReportRequest>({ design: Joi.object().unknown().required() });

const movementRequest = Joi.object<MovementQuestion>({
  where: Joi.object().unknown(),
  from: validDay.required(),
  to: validDay.required(),
  by: Joi.string().valid(...movementGroups),
});

const fileRequest = Joi.object<ReportFileRequest>({
  design: Joi.object().unknown().required(),
  format: Joi.string().valid('csv', 'xlsx', 'pdf').required(),
  name: Joi.string().trim().min(1).max(80).required(),
  about: Joi.string().allow('').max(300),
  drawing: validDrawing,
});

/** Reports: questions with figures, asked again whenever they are looked at. */
@Controller('api/v1/reports')
export class ReportsController {
  constructor(
    private readonly gate: Gate,
    private readonly files: ReportFiles,
    private readonly movements: Movements,
    private readonly questions: Questions,
    private readonly usages: Usages,
  ) {}

  /** The figures of a report as they are now, for whoever asks; it need not be kept. */
  @ForTokens('read', 'all')
  @Post('answer')
  @HttpCode(200)
  async answer(
    @CurrentActor() actor: Actor,
    @CheckedBody(request) { design }: CheckedAs<typeof request>,
  ): Promise<ReportAnswer> {
    return this.answered(actor, await this.checked(actor, design));
  }

  /** What shows a report. */
  @ForTokens('read', 'all')
  @Get(':id/usage')
  async usage(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Usage> {
    await this.gate.find(actor, 'report', id);
    return { people: [], views: [], shownOn: await this.usages.shownOn(actor, { report: id }) };
  }

  /** How the open pipeline went from the beginning of one day to the end of another, step by step. */
  @ForTokens('read', 'all')
  @Post('movement')
  @HttpCode(200)
  async movement(
    @CurrentActor() actor: Actor,
    @CheckedBody(movementRequest) asked: CheckedAs<typeof movementRequest>,
  ): Promise<MovementAnswer> {
    const { where } = await this.questions.checkedFor('deal', ask('deal', asked.where));
    return this.movements.answer(actor, { ...asked, ...(where ? { where } : {}) });
  }

  /** A file of a report: as on the screen, or its innermost rows as CSV. */
  @ForTokens('all')
  @Gives(types.csv, types.xlsx, types.pdf)
  @Post('file')
  @HttpCode(200)
  async file(
    @CurrentActor() actor: Actor,
    @CheckedBody(fileRequest) asked: CheckedAs<typeof fileRequest>,
    @Res() response: Response,
  ): Promise<void> {
    const design = await this.checked(actor, asked.design);
    mayTakeOut(actor, design.question.object);
    const drawing = drawingIn(asked);
    const answer = await this.answered(actor, design);
    // A file passes for the whole: what could not be asked stops it.
    if (answer.leftOut.length > 0)
      throw invalidInput(
        answer.leftOut.map((part) => ({ field: `design.${part.part}`, message: leftOutInWords(part) })),
      );
    if (answer.isCut)
      throw invalidInput([
        {
          field: 'design.question.groups',
          message: 'There are more groups than a file can hold. Group by something coarser',
        },
      ]);
    const title = { name: asked.name, about: asked.about ?? '' };
    const table = tableOf(await this.files.answered(actor, design, answer));
    sendFile(response, asked.format, 'report', await this.files.made(asked.format, table, title, drawing));
  }

  private async answered(actor: Actor, design: ReportDesign): Promise<ReportAnswer> {
    const context = await this.gate.context(actor);
    return answerReport(design, context, (question) => this.gate.figures(actor, question, 'leftOut'));
  }

  /** @throws Problem `invalid-input` naming what is wrong with a report. */
  private async checked(actor: Actor, design: unknown): Promise<ReportDesign> {
    const { catalogue } = await this.gate.context(actor);
    const { value, faults } = checkReport(design, catalogue);
    if (!value)
      throw invalidInput(faults.map(({ field, message }) => ({ field: `design.${field}`, message })));
    return value;
  }
}
