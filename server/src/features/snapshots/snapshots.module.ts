import { Module } from '@nestjs/common';
import { ReportsModule } from '../reports/reports.module';
import { Freezer } from './freezer';
import { FrozenReader } from './frozen-reader';
import { PlanUsage } from './plan-usage';
import { SnapshotFiles } from './snapshot-files';
import { SnapshotSchedule } from './snapshot-schedule';
import { SnapshotsController } from './snapshots.controller';

/** Snapshots of reports in folders, taken by hand and on schedules. */
@Module({
  imports: [ReportsModule],
  controllers: [SnapshotsController],
  providers: [Freezer, FrozenReader, PlanUsage, SnapshotFiles, SnapshotSchedule],
  exports: [Freezer, FrozenReader],
})
export class SnapshotsModule {}
