import { Controller, HttpCode, Post, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import { objectType, policyOf, type Actor, type ExportRequest } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Questions } from '../../kernel/questions/questions';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { Exports, fileNameOf } from './exports';
import { ForPrograms } from '../../platform/sessions/scopes';

const id = Joi.number().integer().positive();

const request = Joi.object<ExportRequest>({
  design: Joi.object().unknown().required(),
  selection: Joi.alternatives(
    Joi.object({ ids: Joi.array().items(id).min(1).max(10_000).required() }),
    Joi.object({
      question: Joi.object().unknown().required().meta({ 'x-schema': 'Question' }),
      except: Joi.array().items(id).max(10_000),
    }),
  ),
  format: Joi.string().valid('csv', 'xlsx', 'vcard').required(),
  fields: Joi.string().valid('shown', 'all').required(),
});

const types = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  vcard: 'text/vcard; charset=utf-8',
} as const satisfies Record<ExportRequest['format'], string>;

@ForPrograms()
@Controller('api/v1/exports')
export class ExportsController {
  constructor(
    private readonly exports: Exports,
    private readonly questions: Questions,
    private readonly organisation: Organisation,
  ) {}

  /** A file of what a design shows, or of all fields of its records, streamed. */
  @Gives(types.csv, types.xlsx, types.vcard)
  @Post()
  @HttpCode(200)
  async write(
    @CurrentActor() actor: Actor,
    @CheckedBody(request) asked: CheckedAs<typeof request>,
    @Res() response: Response,
  ): Promise<void> {
    const design = await this.questions.checkedDesign(asked.design);
    const { object } = design.question;
    if (!policyOf(actor).allows(object, 'export'))
      throw new Problem(
        'not-allowed',
        `Your role does not let you take ${objectType(object).plural.toLowerCase()} out as a file.`,
      );
    const { selection: picked } = asked;
    const selection =
      picked && 'question' in picked
        ? { ...picked, question: await this.questions.checkedFor(object, picked.question) }
        : picked;
    const wanted: ExportRequest = { ...asked, design, ...(selection ? { selection } : {}) };
    if (wanted.format === 'vcard' && object !== 'contact')
      throw invalidInput([{ field: 'format', message: 'Only contacts can be written as vCards' }]);
    await this.exports.mustBeWhole(actor, wanted);
    // Everything that can be refused is refused before the first byte of the file.
    const sheet = wanted.format === 'vcard' ? undefined : await this.exports.sheetOf(actor, wanted);
    response.setHeader('Content-Type', types[wanted.format]);
    response.setHeader('Content-Disposition', `attachment; filename="${fileNameOf(object, wanted.format)}"`);
    response.setHeader('Cache-Control', 'no-store');
    if (!sheet) await this.exports.writeCards(actor, wanted, response);
    else if (wanted.format === 'csv')
      await this.exports.writeCsv(sheet, await this.exports.clock(), response);
    else {
      const { timeZone } = await this.organisation.settings();
      await this.exports.writeXlsx(sheet, objectType(object).plural, timeZone, response);
    }
  }
}
