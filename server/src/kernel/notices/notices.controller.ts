import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type NoticesPage } from '@zawn/core';
import { CheckedBody, type CheckedAs, Before } from '../../platform/http/checked';
import { type Asked } from '../../platform/database/once';
import { CurrentActor, Once } from '../../platform/sessions/current-actor';
import { Notices } from './notices';
import { ForPrograms } from '../../platform/sessions/scopes';

/** One notice; all when none is named. */
const reading = Joi.object<{ id?: number }>({ id: Joi.number().integer().positive() });

@ForPrograms()
@Controller('api/v1/notices')
export class NoticesController {
  constructor(private readonly notices: Notices) {}

  /** The person’s notices, newest first, with how many are unread. */
  @Get()
  page(@CurrentActor() actor: Actor, @Before() before: number | undefined): Promise<NoticesPage> {
    return this.notices.page(actor, before);
  }

  /** Marks a notice as read, or all of them. */
  @Post('read')
  @HttpCode(204)
  read(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @CheckedBody(reading) { id }: CheckedAs<typeof reading>,
  ): Promise<void> {
    return this.notices.read(actor, asked, id);
  }
}
