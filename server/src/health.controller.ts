import { Controller, Get } from '@nestjs/common';
import { version } from './version';
import { Public } from './sessions/asking';

@Controller('api/health')
export class HealthController {
  @Public()
  @Get()
  health(): { status: 'ok'; version: string } {
    return { status: 'ok', version };
  }
}
