import { Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import {
  brokenPromise,
  fileName,
  isShown,
  isSubject,
  LARGEST_FILE,
  mediaTypeOf,
  objectOfPath,
  UNSHOWN,
  type Actor,
  type AnyRecord,
  type Written,
} from '@zawn/core';
import { invalidInput, notFound, Problem } from '../http/problem';
import { recordId } from '../http/record-id';
import { Gate } from '../questions/gate';
import { Door, type Writing } from '../records/door';
import { Asking, ByHand } from '../sessions/asking';
import { KeptFiles, type Kept } from './kept-files';

/** A file shown in the browser can run nothing and reach nothing. */
const SHOWN_POLICY = "default-src 'none'; style-src 'unsafe-inline'; sandbox";

const wrong = (message: string) => invalidInput([{ field: 'file', message }]);

/** Files on records: taken in as a stream, kept by their content, and handed out again. */
@Controller('api/v1')
export class FilesController {
  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly files: KeptFiles,
  ) {}

  /** Puts a file on a record: the body is its content, the address says its name. */
  @Post(':objects/:id/files')
  @HttpCode(201)
  async add(
    @ByHand() writing: Writing,
    @Param('objects') path: string,
    @Param('id') id: string,
    @Query('name') given: unknown,
    @Req() request: Request,
  ): Promise<Written<AnyRecord>> {
    const object = objectOfPath(path);
    if (!isSubject(object)) throw new Problem('not-found', 'There is nothing at this address.');
    const record = await this.gate.find(writing.actor, object, recordId(id));
    const name = typeof given === 'string' ? fileName(given) : undefined;
    if (name === undefined) throw wrong('The file needs a name');
    if (request.is('json') || request.is('urlencoded'))
      throw new Problem('malformed-request', 'Send the file itself, as application/octet-stream.');
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
    return this.door.write(writing, async (unit) => {
      const values = { name, size: bytes, mediaType, hash, owner: unit.actor.personId, [object]: record.id };
      const file = await unit.create('file', values, 'feature');
      unit.label = `Added the file “${name}”`;
      return file;
    });
  }

  /** A file to be kept; with `show`, one that can be looked at is shown. */
  @Get('files/:id/content')
  async content(
    @Asking() actor: Actor,
    @Param('id') id: string,
    @Query('show') show: string | undefined,
    @Res() response: Response,
  ): Promise<void> {
    const file = await this.gate.find(actor, 'file', recordId(id)).catch(() => {
      throw notFound('This file');
    });
    const mediaType = String(file.mediaType);
    if (show !== undefined && isShown(mediaType)) {
      response.setHeader('Content-Disposition', 'inline');
      // A PDF is drawn by the browser’s own viewer, which a sandbox would keep from starting.
      if (mediaType !== 'application/pdf') response.setHeader('Content-Security-Policy', SHOWN_POLICY);
      response.type(mediaType);
    } else response.attachment(String(file.name)).type(UNSHOWN);
    response.sendFile(this.files.pathOf(String(file.hash)), { cacheControl: false, etag: false });
  }
}

const tooLarge = (name: string) =>
  new Problem('too-large', `${name} is larger than 25 MB. Nothing was kept.`);
