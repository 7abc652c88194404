import { Controller, Get, Res } from '@nestjs/common';
import { type Response } from 'express';
import { formDocument, html, lines, type Actor } from '@zawn/core';
import { Database } from '../platform/database/database';
import { type DeliveredRow } from '../platform/database/rows';
import { Organisation } from '../kernel/organisation/organisation';
import { CurrentActor } from '../platform/sessions/current-actor';

const SHOWN = 100;

/** What the mail stand-in delivered to the person signed in: in place of their own mail program. */
@Controller('stand-ins/mailbox')
export class MailboxController {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  @Get()
  async page(@CurrentActor() actor: Actor, @Res() response: Response): Promise<void> {
    const people = await this.organisation.people();
    const recipient = people.find(({ id }) => id === actor.personId)?.email.toLowerCase() ?? '';
    const mails = await this.database.reading
      .getRepository<DeliveredRow>('delivered')
      .find({ where: { recipient }, order: { id: 'DESC' }, take: SHOWN });
    const body = html`<h1>Mail of ${recipient}</h1>
      ${mails.length === 0 && html`<p class="intro">Nothing yet.</p>`}
      ${mails.map(
        ({ at, sender, subject, text }) =>
          html`<article>
            <h2>${subject}</h2>
            <p class="intro">from ${sender}, ${at.slice(0, 16).replace('T', ' ')}</p>
            <p>${lines(text)}</p>
          </article>`,
      )}`;
    response.type('html').send(formDocument(`Mail of ${recipient}`, body));
  }
}
