import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type NoticesPage } from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { recordId } from '../../platform/http/record-id';
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

  @Get()
  page(@CurrentActor() actor: Actor, @Query('before') before: unknown): Promise<NoticesPage> {
    return this.notices.page(actor, typeof before === 'string' ? recordId(before) : undefined);
  }

  @Post('read')
  @HttpCode(204)
  read(@CurrentActor() actor: Actor, @Once() asked: Asked | undefined, @Body() body: unknown): Promise<void> {
    return this.notices.read(actor, asked, checked(reading, body).id);
  }
}
