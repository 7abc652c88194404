import { Module } from '@nestjs/common';
import { ReportsModule } from '../reports/reports.module';
import { Freezer } from './freezer';
import { SnapshotSchedule } from './snapshot-schedule';
import { SnapshotsController } from './snapshots.controller';

/** Snapshots of reports in folders, taken by hand and on schedules. */
@Module({
  imports: [ReportsModule],
  controllers: [SnapshotsController],
  providers: [Freezer, SnapshotSchedule],
  exports: [Freezer],
})
export class SnapshotsModule {}
