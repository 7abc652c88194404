import { Module } from '@nestjs/common';
import { Backups } from './backups';
import { BackupsController } from './backups.controller';

/** Backups that Zawn makes by itself; the commands beside it make, bring back and check them by hand. */
@Module({ controllers: [BackupsController], providers: [Backups] })
export class SafeKeepingModule {}
