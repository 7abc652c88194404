import { Body, Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import Joi from 'joi';
import Papa from 'papaparse';
import {
  type Actor,
  type ImportExamples,
  type ImportPile,
  type ImportLook,
  type ImportPreview,
  type ImportRequest,
  type ImportSummary,
} from '@zawn/core';
import { LIMITS, targets, type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { checked } from '../../platform/http/checked';
import { recordId } from '../../platform/http/record-id';
import { type Asked } from '../../platform/database/once';
import { CurrentActor, Once } from '../../platform/sessions/current-actor';
import { tooLarge } from './import-files';
import { Imports, type LookAgain } from './imports';
import { ForPrograms } from '../../platform/sessions/scopes';
import { TakesBytes } from '../../platform/http/body.guard';

const target = Joi.string().valid(...targets.map(({ key }) => key));
const fileName = Joi.string().max(200).label('File name');
const file = Joi.string().max(60).required().label('File');

const reading = Joi.object<ImportSetup['reading']>({
  encoding: Joi.string().valid('utf-8', 'utf-16le', 'utf-16be', 'windows-1252'),
  delimiter: Joi.string().valid(',', ';', '\t', '|'),
  headingRow: Joi.number().integer().min(0).max(LIMITS.rows),
  sheet: Joi.string().max(200),
});

const meaning = Joi.alternatives(Joi.string().max(200), Joi.number().integer().positive(), Joi.valid(null));

const setup = Joi.object<ImportSetup>({
  target: target.required(),
  reading: reading.required(),
  columns: Joi.array()
    .items(Joi.string().max(100).allow(null))
    .max(LIMITS.columns)
    .unique((a: unknown, b: unknown) => a !== null && a === b)
    .messages({ 'array.unique': 'Two columns fill the same field. Leave one of them out' })
    .required()
    .label('Columns'),
  dates: Joi.string().valid('dmy', 'mdy', 'ymd').required(),
  decimal: Joi.string().valid('.', ',').required(),
  owner: Joi.alternatives(
    Joi.object({ by: Joi.valid('person').required(), id: Joi.number().integer().positive().required() }),
    Joi.object({ by: Joi.valid('rules').required() }),
  ).required(),
  tags: Joi.array().items(Joi.string().trim().min(1).max(40)).max(20).required().label('Tags'),
  list: Joi.alternatives(
    Joi.object({ id: Joi.number().integer().positive().required() }),
    Joi.object({ name: Joi.string().trim().min(1).max(80).required().label('Name of the list') }),
  )
    .allow(null)
    .required(),
  match: Joi.array()
    .items(Joi.string().valid('externalId', 'email', 'domain', 'name'))
    .max(4)
    .unique()
    .required()
    .label('Match by'),
  onMatch: Joi.string().valid('update', 'skip', 'create').required(),
  blanks: Joi.string().valid('keep', 'clear').required(),
  several: Joi.string().valid('add', 'replace').required(),
  meanings: Joi.object()
    .pattern(Joi.string().max(100), Joi.object().pattern(Joi.string().max(500), meaning).max(500))
    .max(LIMITS.columns)
    .required(),
})
  .required()
  .label('Setup');

const naming = Joi.object<{ name: string; as?: TargetKey }>({ name: fileName.required(), as: target });
const looking = Joi.object<LookAgain>({
  file,
  fileName: fileName.required(),
  target,
  reading: reading.required(),
});
const previewing = Joi.object<{ file: string; setup: ImportSetup }>({ file, setup });
const showing = Joi.object<{ file: string; setup: ImportSetup; pile: ImportPile; from: number }>({
  file,
  setup,
  pile: Joi.object({
    object: Joi.string()
      .valid(...targets.map(({ key }) => key))
      .required(),
    fate: Joi.string().valid('create', 'update', 'same', 'skip', 'refuse').required(),
  }).required(),
  from: Joi.number().integer().min(0).max(LIMITS.rows).required(),
});
const beginning = Joi.object<ImportRequest>({ file, fileName: fileName.required(), setup });

@ForPrograms()
@Controller('api/v1/imports')
export class ImportsController {
  constructor(private readonly imports: Imports) {}

  @Get()
  async history(@CurrentActor() actor: Actor): Promise<{ imports: ImportSummary[] }> {
    return { imports: await this.imports.history(actor) };
  }

  /** Takes the bytes of a file in and answers with what they look like. */
  @TakesBytes()
  @Post('files')
  async handIn(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Query('name') name: unknown,
    @Query('as') as: unknown,
    @Req() request: Request,
  ): Promise<ImportLook> {
    if (Number(request.get('Content-Length') ?? 0) > LIMITS.bytes) throw tooLarge();
    const known = checked(naming, { name, as });
    return this.imports.handIn(actor, known.name, request, { target: known.as, asked });
  }

  @Post('look')
  @HttpCode(200)
  look(@CurrentActor() actor: Actor, @Body() body: unknown): Promise<ImportLook> {
    return this.imports.look(actor, checked(looking, body));
  }

  @Post('preview')
  @HttpCode(200)
  preview(@CurrentActor() actor: Actor, @Body() body: unknown): Promise<ImportPreview> {
    const { file: name, setup: wanted } = checked(previewing, body);
    return this.imports.preview(actor, name, wanted);
  }

  @Post('examples')
  @HttpCode(200)
  examples(@CurrentActor() actor: Actor, @Body() body: unknown): Promise<ImportExamples> {
    const { file: name, setup: wanted, pile, from } = checked(showing, body);
    return this.imports.examples(actor, name, wanted, pile, from);
  }

  /** Begins the import; how far it is stands under its own address. */
  @Post()
  begin(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Body() body: unknown,
  ): Promise<ImportSummary> {
    return this.imports.begin(actor, checked(beginning, body), asked);
  }

  /** An empty file with the headings that are understood at once. */
  @Get('templates/:target')
  async template(@Param('target') key: string, @Res() response: Response): Promise<void> {
    const { as: known } = checked(naming, { name: 'template', as: key });
    const headings = await this.imports.template(known ?? 'lead');
    response
      .attachment(`${known} template.csv`)
      .type('text/csv')
      .send(`\uFEFF${Papa.unparse([headings])}\r\n`);
  }

  @Get(':id')
  get(@CurrentActor() actor: Actor, @Param('id') id: string): Promise<ImportSummary> {
    return this.imports.get(actor, recordId(id));
  }

  @Post(':id/cancel')
  @HttpCode(200)
  cancel(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Param('id') id: string,
  ): Promise<ImportSummary> {
    return this.imports.cancel(actor, recordId(id), asked);
  }

  /** A download of the rows that an import refused, each with why. */
  @Get(':id/refused')
  async refused(
    @CurrentActor() actor: Actor,
    @Param('id') id: string,
    @Res() response: Response,
  ): Promise<void> {
    const { fileName: name, csv } = await this.imports.refusedRows(actor, recordId(id));
    response.attachment(name).type('text/csv').send(csv);
  }

  /** A download of the file as it was handed in. */
  @Get(':id/file')
  async original(
    @CurrentActor() actor: Actor,
    @Param('id') id: string,
    @Res() response: Response,
  ): Promise<void> {
    const { fileName: name, path } = await this.imports.original(actor, recordId(id));
    response.attachment(name).type('application/octet-stream').sendFile(path);
  }
}
