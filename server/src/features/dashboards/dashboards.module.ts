import { Module } from '@nestjs/common';
import { DashboardUsage } from './dashboard-usage';

/** Dashboards: tiles looked at together, and what is to become of them when what they show is removed. */
@Module({ providers: [DashboardUsage] })
export class DashboardsModule {}
