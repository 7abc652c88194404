import { Module } from '@nestjs/common';
import { GroupController } from './group.controller';
import { Leaving } from './leaving';
import { LeavingController } from './leaving.controller';
import { TouchController } from './touch.controller';

/** Touch reminders of contacts, groups of accounts, and what becomes of the work of whoever leaves. */
@Module({ controllers: [TouchController, GroupController, LeavingController], providers: [Leaving] })
export class PeopleModule {}
