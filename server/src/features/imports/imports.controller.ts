import { Controller, Get, HttpCode, Param, Post, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import Joi from 'joi';
import Papa from 'papaparse';
import {
  isCurrency,
  type Actor,
  type ImportExamples,
  type ImportBucket,
  type ImportLook,
  type ImportPreview,
  type ImportRequest,
  type ImportSummary,
} from '@zawn/core';
import { ENCODINGS, splitsAt, targets, LIMITS, type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { CheckedBody, CheckedBy, CheckedQuery, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
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
  encoding: Joi.string().valid(...ENCODINGS.map(([encoding]) => encoding)),
  delimiter: Joi.string().valid(',', ';', '\t', '|'),
  headingRow: Joi.number().integer().min(0).max(LIMITS.rows),
  sheet: Joi.string().max(200),
  split: Joi.array()
    .items(
      Joi.object({
        column: Joi.number().integer().min(0).less(LIMITS.columns).required(),
        at: Joi.string()
          .valid(...splitsAt)
          .required(),
      }),
    )
    .max(20),
});

const meaning = Joi.alternatives(Joi.string().max(200), Joi.number().integer().positive(), Joi.valid(null));

const setup = Joi.object<ImportSetup>({
  target: target.required(),
  reading: reading.required(),
  columns: Joi.array()
    .items(Joi.string().max(100).allow(null))
    .max(LIMITS.columns)
    .required()
    .label('Columns'),
  dates: Joi.string().valid('dmy', 'mdy', 'ymd').required(),
  decimal: Joi.string().valid('.', ',').required(),
  currency: Joi.string()
    .custom((value: string) => {
      if (!isCurrency(value)) throw new Error('unknown');
      return value;
    })
    .messages({ 'any.custom': 'This is not a currency code such as GBP' }),
  names: Joi.string().valid('asWritten', 'lastFirst'),
  bad: Joi.object().pattern(Joi.string().max(100), Joi.string().valid('empty', 'refuse')).max(LIMITS.columns),
  onMaybe: Joi.string().valid('create', 'skip'),
  alike: Joi.string().valid('same', 'new'),
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
    .items(Joi.string().valid('id', 'externalId', 'number', 'email', 'domain', 'name'))
    .max(6)
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
const showing = Joi.object<{ file: string; setup: ImportSetup; bucket: ImportBucket; from: number }>({
  file,
  setup,
  bucket: Joi.object({
    object: Joi.string()
      .valid(...targets.map(({ key }) => key))
      .required(),
    outcome: Joi.string().valid('create', 'maybe', 'update', 'same', 'skip', 'refuse').required(),
  }).required(),
  from: Joi.number().integer().min(0).max(LIMITS.rows).required(),
});
const beginning = Joi.object<ImportRequest>({ file, fileName: fileName.required(), setup });

@ForPrograms()
@Controller('api/v1/imports')
export class ImportsController {
  constructor(private readonly imports: Imports) {}

  /** Imports within the person’s reach, newest first. */
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
    @CheckedQuery(naming) known: CheckedAs<typeof naming>,
    @Req() request: Request,
  ): Promise<ImportLook> {
    if (Number(request.get('Content-Length') ?? 0) > LIMITS.bytes) throw tooLarge();
    return this.imports.handIn(actor, known.name, request, { target: known.as, asked });
  }

  /** Reads a file again, as something else or in another way. */
  @Post('look')
  @HttpCode(200)
  look(
    @CurrentActor() actor: Actor,
    @CheckedBody(looking) wanted: CheckedAs<typeof looking>,
  ): Promise<ImportLook> {
    return this.imports.look(actor, wanted);
  }

  /** What would become of the rows of a file. Nothing is written. */
  @Post('preview')
  @HttpCode(200)
  preview(
    @CurrentActor() actor: Actor,
    @CheckedBody(previewing) wanted: CheckedAs<typeof previewing>,
  ): Promise<ImportPreview> {
    return this.imports.preview(actor, wanted.file, wanted.setup);
  }

  /** Rows of a file that fare alike, each with what is on file now and what would be. */
  @Post('examples')
  @HttpCode(200)
  examples(
    @CurrentActor() actor: Actor,
    @CheckedBody(showing) wanted: CheckedAs<typeof showing>,
  ): Promise<ImportExamples> {
    return this.imports.examples(actor, wanted.file, wanted.setup, wanted.bucket, wanted.from);
  }

  /** Begins the import; how far it is stands under its own address. */
  @Post()
  begin(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @CheckedBody(beginning) wanted: CheckedAs<typeof beginning>,
  ): Promise<ImportSummary> {
    return this.imports.begin(actor, wanted, asked);
  }

  /** An empty file with the headings that are understood at once. */
  @Gives('text/csv')
  @Get(':target/template')
  async template(
    @Param('target', new CheckedBy(target)) known: TargetKey,
    @Res() response: Response,
  ): Promise<void> {
    const headings = await this.imports.template(known);
    response
      .attachment(`${known} template.csv`)
      .type('text/csv')
      .send(`\uFEFF${Papa.unparse([headings])}\r\n`);
  }

  /** How an import stands: how far it is, or what came of it. */
  @Get(':id')
  get(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<ImportSummary> {
    return this.imports.get(actor, id);
  }

  /** Stops an import. Nothing of it is kept. */
  @Post(':id/cancel')
  @HttpCode(200)
  cancel(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @RecordId() id: number,
  ): Promise<ImportSummary> {
    return this.imports.cancel(actor, id, asked);
  }

  /** A download of the rows that an import refused, each with why. */
  @Gives('text/csv')
  @Get(':id/refused')
  async refused(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Res() response: Response,
  ): Promise<void> {
    const { fileName: name, csv } = await this.imports.refusedRows(actor, id);
    response.attachment(name).type('text/csv').send(csv);
  }

  /** A download of the file as it was handed in. */
  @Gives('application/octet-stream')
  @Get(':id/file')
  async original(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Res() response: Response,
  ): Promise<void> {
    const { fileName: name, path } = await this.imports.original(actor, id);
    response.attachment(name).type('application/octet-stream').sendFile(path);
  }
}
