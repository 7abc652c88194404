import { Module } from '@nestjs/common';
import { ActivitiesController } from './activities.controller';
import { ActivityTimeline } from './activity-timeline';

/** Planning activities, doing them and logging them. */
@Module({ controllers: [ActivitiesController], providers: [ActivityTimeline] })
export class ActivitiesModule {}
