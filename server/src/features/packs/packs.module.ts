import { Module } from '@nestjs/common';
import { ReportsModule } from '../reports/reports.module';
import { SnapshotsModule } from '../snapshots/snapshots.module';
import { LivePrint } from './live-print';
import { PackPages } from './pack-pages';
import { PackPrint } from './pack-print';
import { PackUsage } from './pack-usage';
import { PacksController } from './packs.controller';
import { ReportPrint } from './report-print';
import { StandingPrint } from './standing-print';

/** Meeting packs: what a meeting looks at, and what is decided in it. */
@Module({
  imports: [ReportsModule, SnapshotsModule],
  controllers: [PacksController],
  providers: [PackPages, PackPrint, LivePrint, PackUsage, ReportPrint, StandingPrint],
})
export class PacksModule {}
