import { Global, Module, type DynamicModule } from '@nestjs/common';
import { DiscoveryModule } from '@nestjs/core';
import { ThrottlerModule } from '@nestjs/throttler';
import { LoggerModule } from 'nestjs-pino';
import { Clock } from './clock/clock';
import { ClockWatch } from './clock/clock-watch';
import { type Config } from './config/config';
import { CONFIG } from './config/tokens';
import { type Connections } from './database/data-source';
import { Database } from './database/database';
import { Events } from './events/events';
import { EventsController } from './events/events.controller';
import { HealthController } from './http/health.controller';
import { loggingOptions } from './http/logging';

/** What a route that limits callers lets one address do within a minute unless it says otherwise. */
const A_MINUTE = { ttl: 60_000, limit: 12 };

/** What any server needs: its settings, the clock, the database, events and HTTP. */
@Global()
@Module({})
export class PlatformModule {
  static with(config: Config, connections: Connections): DynamicModule {
    return {
      module: PlatformModule,
      imports: [LoggerModule.forRoot(loggingOptions()), ThrottlerModule.forRoot([A_MINUTE]), DiscoveryModule],
      controllers: [HealthController, EventsController],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Clock, useValue: new Clock(config.today) },
        { provide: Database, useFactory: () => new Database(connections, config.reading) },
        Events,
        ClockWatch,
      ],
      exports: [CONFIG, Clock, ClockWatch, Database, Events, DiscoveryModule, ThrottlerModule],
    };
  }
}
