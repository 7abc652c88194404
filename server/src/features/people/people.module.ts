import { Module } from '@nestjs/common';
import { TouchController } from './touch.controller';
import { GroupController } from './group.controller';

/** Touch reminders of contacts, and groups of accounts. */
@Module({ controllers: [TouchController, GroupController] })
export class PeopleModule {}
