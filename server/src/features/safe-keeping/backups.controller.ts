import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import { type Backups as Answer } from '@zawn/core';
import { May } from '../../platform/sessions/may';
import { Backups } from './backups';

@May(
  'keepBackups',
  'Your role does not let you look after backups. Ask whoever sets up Zawn in your organisation.',
)
@Controller('api/v1/backups')
export class BackupsController {
  constructor(private readonly backups: Backups) {}

  /** The backups that are kept, and how the last one went. */
  @Get()
  all(): Promise<Answer> {
    return this.backups.all();
  }

  /** Makes a backup now; asked for twice at once, one. */
  @Post()
  @HttpCode(200)
  async make(): Promise<Answer> {
    await this.backups.make();
    return this.backups.all();
  }
}
