import { Controller, Get, Res } from '@nestjs/common';
import { type Response } from 'express';
import { ClockWatch } from '../clock/clock-watch';
import { Database } from '../database/database';
import { Public } from '../sessions/current-actor';
import { version } from '../config/version';

/** `failing` while questions are not answered or writes not kept; answered with 503 then. */
export interface Health {
  status: 'ok' | 'failing';
  reading: boolean;
  writing: boolean;
  /** `behind` where the clock of the machine stands before the last change on file. */
  clock: 'right' | 'behind';
  version: string;
}

@Controller('api/health')
export class HealthController {
  constructor(
    private readonly database: Database,
    private readonly watch: ClockWatch,
  ) {}

  /** Whether Zawn answers questions and keeps what is written; 503 while it does not. */
  @Public()
  @Get()
  async health(@Res({ passthrough: true }) response: Response): Promise<Health> {
    const state = await this.database.health();
    const isWell = state.reading && state.writing;
    if (!isWell) response.status(503);
    // What cannot be read is said above.
    const behind = state.reading ? await this.watch.behindBy() : null;
    const clock = behind === null ? 'right' : 'behind';
    return { status: isWell ? 'ok' : 'failing', ...state, clock, version };
  }
}
