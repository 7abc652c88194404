import { Controller, Get, HttpCode, Post, Query, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import {
  brokenPromise,
  fieldOf,
  fileName,
  holdsFile,
  isShown,
  LARGEST_FILE,
  mediaTypeOf,
  objectType,
  subjectKeys,
  UNSHOWN,
  type Actor,
  type AnyRecord,
  type ObjectKey,
  type SubjectKey,
  type Written,
} from '@zawn/core';
import { RecordId, ObjectAt } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { invalidInput, notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { Gate } from '../questions/gate';
import { Door, type WriteContext } from '../records/door';
import { type Values } from '../records/record-hooks';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../records/by-hand';
import { KeptFiles, type Kept } from './kept-files';
import { TakesBytes } from '../../platform/http/body.guard';
import { ForPrograms } from '../../platform/sessions/scopes';

/** A file shown in the browser can run nothing and reach nothing. */
const SHOWN_POLICY = "default-src 'none'; style-src 'unsafe-inline'; sandbox";
/** A PDF is drawn by the browser’s own viewer, which a sandbox would keep from starting; Zawn’s own pages may frame it. */
const PDF_POLICY = "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'self'";

const wrong = (message: string) => invalidInput([{ field: 'file', message }]);

/** What files can be put on. */
const CARRY_FILES = [...subjectKeys, 'activity'] as const;

/** Files on records: taken in as a stream, kept by their content, and handed out again. */
@ForPrograms()
@Controller('api/v1')
export class FilesController {
  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly files: KeptFiles,
    private readonly organisation: Organisation,
  ) {}

  /**
   * Puts a file on a record: the body is its content, the address says its name, and, where it is meant for one, the
   * field of the organisation’s own that it fills.
   */
  @TakesBytes()
  @Post(':objects/:id/files')
  @HttpCode(201)
  async add(
    @ByHand() writing: WriteContext,
    @ObjectAt(CARRY_FILES) object: (typeof CARRY_FILES)[number],
    @RecordId() id: number,
    @Query('name') given: unknown,
    @Query('field') key: unknown,
    @Req() request: Request,
  ): Promise<Written<AnyRecord>> {
    const record = await this.gate.find(writing.actor, object, id);
    const field = typeof key === 'string' ? await this.fieldFor(object, key) : undefined;
    const name = typeof given === 'string' ? fileName(given) : undefined;
    if (name === undefined) throw wrong('The file needs a name');
    if (Number(request.get('Content-Length') ?? 0) > LARGEST_FILE) throw tooLarge(name);
    let mediaType = UNSHOWN;
    const whole = ({ bytes, head }: Kept) => {
      if (bytes === 0) throw wrong(`${name} is empty`);
      mediaType = mediaTypeOf(head);
      const broken = brokenPromise(name, mediaType);
      if (broken) throw wrong(broken);
    };
    const onTheWay = (soFar: number) => {
      if (soFar > LARGEST_FILE) throw tooLarge(name);
    };
    const { hash, bytes } = await this.files.keepStream(request, { onTheWay, whole });
    const { asked } = writing;
    // What was sent is the content.
    const once = asked ? { asked: { ...asked, contentHash: `${asked.contentHash} ${hash}` } } : {};
    return this.door.write({ ...writing, ...once }, async (unit) => {
      const values = {
        name,
        size: bytes,
        mediaType,
        hash,
        owner: unit.actor.personId,
        ...hungOn(object, record),
      };
      const file = await unit.create('file', values, 'feature');
      if (field) await unit.change(object, record.id, { [field.key]: file.id });
      unit.label = field ? `Put “${name}” into ${field.label}` : `Added the file “${name}”`;
      return file;
    });
  }

  private async fieldFor(object: ObjectKey, key: string): Promise<{ key: string; label: string }> {
    const field = fieldOf(await this.organisation.catalogue(), object, key);
    if (!field || !holdsFile(field))
      throw invalidInput([
        { field: 'field', message: `${objectType(object).plural} have no field ${key} for files` },
      ]);
    return { key, label: field.label };
  }

  /** A file to be kept; with `show`, one that can be looked at is shown. */
  @Gives('application/octet-stream')
  @Get('files/:id/content')
  async content(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Query('show') show: string | undefined,
    @Res() response: Response,
  ): Promise<void> {
    const file = await this.gate.find(actor, 'file', id).catch(() => {
      throw notFound('This file');
    });
    const mediaType = String(file.mediaType);
    if (show !== undefined && isShown(mediaType)) {
      response.setHeader('Content-Disposition', 'inline');
      response.setHeader(
        'Content-Security-Policy',
        mediaType === 'application/pdf' ? PDF_POLICY : SHOWN_POLICY,
      );
      response.type(mediaType);
    } else response.attachment(String(file.name)).type(UNSHOWN);
    response.sendFile(this.files.pathOf(String(file.hash)), { cacheControl: false, etag: false });
  }
}

/** What a file hangs on that is put on a record: that record, or what the activity is about. */
function hungOn(object: SubjectKey | 'activity', record: AnyRecord): Values {
  if (object !== 'activity') return { [object]: record.id };
  return Object.fromEntries(subjectKeys.map((subject) => [subject, record[subject] ?? null]));
}

const tooLarge = (name: string) =>
  new Problem('too-large', `${name} is larger than 25 MB. Nothing was kept.`);
