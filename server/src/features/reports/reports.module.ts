import { Module } from '@nestjs/common';
import { ReportsController } from './reports.controller';

/** Reports and what they answer. */
@Module({ controllers: [ReportsController] })
export class ReportsModule {}
