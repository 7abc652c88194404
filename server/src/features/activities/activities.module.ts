import { Module } from '@nestjs/common';
import { ActivitiesController } from './activities.controller';
import { Digests } from './digests';
import { Reminders } from './reminders';
import { ActivityTimeline } from './activity-timeline';

/** Planning activities, doing them and logging them. */
@Module({ controllers: [ActivitiesController], providers: [ActivityTimeline, Digests, Reminders] })
export class ActivitiesModule {}
