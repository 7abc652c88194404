import { Module } from '@nestjs/common';
import { DashboardUsage } from './dashboard-usage';
import { DashboardsController } from './dashboards.controller';

/** Dashboards: tiles looked at together, and what is to become of them when what they show is removed. */
@Module({ controllers: [DashboardsController], providers: [DashboardUsage] })
export class DashboardsModule {}
