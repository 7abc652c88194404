import { Module } from '@nestjs/common';
import { TagsController } from './tags.controller';
import { FieldUsageController } from './field-usage.controller';

/** What operations look after: tags and fields of their own. */
@Module({ controllers: [TagsController, FieldUsageController] })
export class SetupModule {}
