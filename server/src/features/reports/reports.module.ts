import { Module } from '@nestjs/common';
import { Movements } from './movements';
import { ReportFiles } from './report-files';
import { ReportsController } from './reports.controller';

/** Reports, what they answer, and files of them. */
@Module({ controllers: [ReportsController], providers: [Movements, ReportFiles], exports: [ReportFiles] })
export class ReportsModule {}
