import { Controller, Get } from '@nestjs/common';
import { type LetGo } from '@zawn/core';
import { May } from '../../platform/sessions/may';
import { Retention } from './retention';

@May('setUpMoney', 'Your role does not let you see what the nights let go of.')
@Controller('api/v1/retention')
export class RetentionController {
  constructor(private readonly retention: Retention) {}

  /** What the last nights let go of, the latest first. */
  @Get()
  async letGo(): Promise<{ rows: LetGo[] }> {
    return { rows: await this.retention.told() };
  }
}
