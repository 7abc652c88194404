import { Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import { policyOf, type Actor, type Attachment, type MailArrival, type MailArrivalsPage } from '@zawn/core';
import { notFound, Problem } from '../../platform/http/problem';
import { recordId } from '../../platform/http/record-id';
import { Gate } from '../../kernel/questions/gate';
import { type Asked } from '../../platform/database/once';
import { CurrentActor, Once } from '../../platform/sessions/current-actor';
import { KeptFiles } from '../../kernel/files/kept-files';
import { MailIn } from './mail-in';
import { LARGEST_MAIL } from './parse-mail';
import { ForPrograms } from '../../platform/sessions/scopes';
import { TakesBytes } from '../../platform/http/body.guard';

const tooLarge = () => new Problem('too-large', 'The email is larger than 25 MB. Nothing was kept.');

function mayLook(actor: Actor): void {
  if (!policyOf(actor).may('setUp'))
    throw new Problem('not-allowed', 'Only operations can look at what came in by email.');
}

@ForPrograms()
@Controller('api/v1')
export class MailsController {
  constructor(
    private readonly mailIn: MailIn,
    private readonly gate: Gate,
    private readonly files: KeptFiles,
  ) {}

  /** Takes in a message that was kept as a file (RFC 5322), as if it had come to a capture address. */
  @TakesBytes()
  @Post('mails/files')
  @HttpCode(201)
  async drop(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Req() request: Request,
  ): Promise<MailArrival> {
    mayLook(actor);
    return this.mailIn.take(await wholeOf(request), { address: null, from: '' }, asked);
  }

  /** What came in by email and what became of it, newest first. */
  @Get('mail-arrivals')
  arrivals(@CurrentActor() actor: Actor, @Query('before') before?: string): Promise<MailArrivalsPage> {
    mayLook(actor);
    return this.mailIn.arrivals(before === undefined ? undefined : recordId(before));
  }

  /** A message as it came. */
  @Get('mail-arrivals/:id/file')
  async original(
    @CurrentActor() actor: Actor,
    @Param('id') id: string,
    @Res() response: Response,
  ): Promise<void> {
    mayLook(actor);
    const path = await this.mailIn.original(recordId(id));
    if (path === undefined) throw notFound('This email');
    response.attachment(`mail-${id}.eml`).type('application/octet-stream').sendFile(path);
  }

  /** A file that came with an email: handed out to be kept, never to be run. */
  @Get('mails/:id/files/:index')
  async file(
    @CurrentActor() actor: Actor,
    @Param('id') id: string,
    @Param('index') index: string,
    @Res() response: Response,
  ): Promise<void> {
    const mail = await this.gate.find(actor, 'mail', recordId(id));
    const all = JSON.parse(String(mail.attachments ?? '[]')) as Attachment[];
    const file = /^\d{1,3}$/.test(index) ? all.at(Number(index)) : undefined;
    if (!file) throw notFound('This file');
    response.attachment(file.name).type('application/octet-stream').sendFile(this.files.pathOf(file.hash));
  }
}

async function wholeOf(request: Request): Promise<Buffer> {
  if (Number(request.get('Content-Length') ?? 0) > LARGEST_MAIL) throw tooLarge();
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > LARGEST_MAIL) throw tooLarge();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}
