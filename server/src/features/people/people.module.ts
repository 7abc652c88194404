import { Module } from '@nestjs/common';
import { GroupController } from './group.controller';
import { Leaving } from './leaving';
import { LeavingController } from './leaving.controller';
import { ReachController } from './reach.controller';
import { ReachTeller } from './reach';
import { TouchController } from './touch.controller';

/** Touch reminders of contacts, groups of accounts, who may see what, and what becomes of the work of whoever leaves. */
@Module({
  controllers: [TouchController, GroupController, LeavingController, ReachController],
  providers: [Leaving, ReachTeller],
})
export class PeopleModule {}
