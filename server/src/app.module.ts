import { Module, type DynamicModule, type Type } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import { derivations } from './features/derivations';
import { featureModules } from './features/modules';
import { recordHooks } from './features/record-hooks';
import { AnyRecordModule, KernelModule } from './kernel/kernel.module';
import { type Derivation } from './kernel/records/derivation';
import { type RecordHooks } from './kernel/records/record-hooks';
import { SessionGuard } from './kernel/sessions/session.guard';
import { type Config } from './platform/config/config';
import { type Connections } from './platform/database/data-source';
import { BodyGuard } from './platform/http/body.guard';
import { ProblemFilter } from './platform/http/problem-filter';
import { QueryGuard } from './platform/http/query.guard';
import { PlatformModule } from './platform/platform.module';
import { StandInsModule } from './stand-ins/stand-ins.module';

/** What features bring along. */
export interface Features {
  modules: readonly Type[];
  hooks: readonly RecordHooks[];
  derivations: readonly Derivation[];
}

@Module({})
export class AppModule {
  /** The whole server around an open database, with what others than its own features bring along. */
  static with(config: Config, connections: Connections, others: Partial<Features> = {}): DynamicModule {
    return {
      module: AppModule,
      imports: [
        PlatformModule.with(config, connections),
        KernelModule.with(
          [...recordHooks, ...(others.hooks ?? [])],
          [...derivations, ...(others.derivations ?? [])],
        ),
        ...featureModules,
        ...(others.modules ?? []),
        StandInsModule,
        AnyRecordModule,
      ],
      providers: [
        { provide: APP_GUARD, useClass: SessionGuard },
        { provide: APP_GUARD, useClass: BodyGuard },
        { provide: APP_GUARD, useClass: QueryGuard },
        { provide: APP_FILTER, useClass: ProblemFilter },
      ],
    };
  }
}
