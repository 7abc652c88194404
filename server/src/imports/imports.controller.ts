import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import {
  type Actor,
  type ImportPreview,
  type ImportReport,
  type ImportRequest,
  type ImportSummary,
  type Written,
} from '@zawn/core';
import { checked } from '../http/checked';
import { recordId } from '../http/record-id';
import { Asking, ByHand } from '../sessions/asking';
import { type Writing } from '../records/door';
import { Imports } from './imports';

const importBody = Joi.object<ImportRequest>({
  fileName: Joi.string().max(200).required().label('File name'),
  text: Joi.string().allow('').max(8_500_000).required().label('File'),
  columns: Joi.array()
    .items(Joi.string().max(60).allow(null))
    .max(200)
    .unique((a: unknown, b: unknown) => a !== null && a === b)
    .messages({ 'array.unique': 'Two columns fill the same field. Leave one of them out' })
    .label('Columns'),
  owner: Joi.number().integer().positive().required().label('Owner'),
});

@Controller('api/v1/imports')
export class ImportsController {
  constructor(private readonly imports: Imports) {}

  @Get()
  async history(@Asking() actor: Actor): Promise<{ imports: ImportSummary[] }> {
    return { imports: await this.imports.history(actor) };
  }

  /** A download of the rows that an import refused, each with why. */
  @Get(':id/refused')
  async refused(@Asking() actor: Actor, @Param('id') id: string, @Res() response: Response): Promise<void> {
    const { fileName, csv } = await this.imports.refusedRows(actor, recordId(id));
    response.attachment(fileName).type('text/csv').send(csv);
  }

  @Post('preview')
  @HttpCode(200)
  preview(@Asking() actor: Actor, @Body() body: unknown): Promise<ImportPreview> {
    return this.imports.preview(actor, checked(importBody, body));
  }

  @Post()
  run(@ByHand() writing: Writing, @Body() body: unknown): Promise<Written<ImportReport>> {
    return this.imports.run(writing, checked(importBody, body));
  }
}
