import { Controller, Get, HttpCode, Param, Post, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import { type Actor, type Attachment, type MailArrival, type MailArrivalsPage } from '@zawn/core';
import { RecordId, Before } from '../../platform/http/checked';
import { May } from '../../platform/sessions/may';
import { Gives } from '../../platform/http/described';
import { notFound, Problem } from '../../platform/http/problem';
import { Gate } from '../../kernel/questions/gate';
import { type Asked } from '../../platform/database/once';
import { CurrentActor, Once } from '../../platform/sessions/current-actor';
import { KeptFiles } from '../../kernel/files/kept-files';
import { MailIn } from './mail-in';
import { LARGEST_MAIL } from './parse-mail';
import { ForPrograms } from '../../platform/sessions/scopes';
import { TakesBytes } from '../../platform/http/body.guard';

const tooLarge = () => new Problem('too-large', 'The email is larger than 25 MB. Nothing was kept.');

/** What came in is looked at by whoever sets the organisation up. */
const MayLook = () => May('setUpCapture', 'Your role does not let you look at what came in by email.');

@ForPrograms()
@Controller('api/v1')
export class MailsController {
  constructor(
    private readonly mailIn: MailIn,
    private readonly gate: Gate,
    private readonly files: KeptFiles,
  ) {}

  /** Takes in a message that was kept as a file (RFC 5322), as if it had come to a capture address. */
  @MayLook()
  @TakesBytes()
  @Post('mails/files')
  @HttpCode(201)
  async drop(@Once() asked: Asked | undefined, @Req() request: Request): Promise<MailArrival> {
    return this.mailIn.take(await wholeOf(request), { address: null, from: '' }, asked);
  }

  /** What came in by email and what became of it, newest first. */
  @MayLook()
  @Get('mail-arrivals')
  arrivals(@Before() before: number | undefined): Promise<MailArrivalsPage> {
    return this.mailIn.arrivals(before);
  }

  /** A message as it came. */
  @MayLook()
  @Gives('application/octet-stream')
  @Get('mail-arrivals/:id/file')
  async original(@RecordId() id: number, @Res() response: Response): Promise<void> {
    const path = await this.mailIn.original(id);
    if (path === undefined) throw notFound('This email');
    response.attachment(`mail-${id}.eml`).type('application/octet-stream').sendFile(path);
  }

  /** A file that came with an email: handed out to be kept, never to be run. */
  @Gives('application/octet-stream')
  @Get('mails/:id/files/:index')
  async file(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @Param('index') index: string,
    @Res() response: Response,
  ): Promise<void> {
    const mail = await this.gate.find(actor, 'mail', id);
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
