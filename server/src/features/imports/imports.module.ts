import { Module } from '@nestjs/common';
import { AssignmentModule } from '../assignment/assignment.module';
import { ImportsController } from './imports.controller';
import { ImportThreads } from './import-threads';
import { ImportFiles } from './import-files';
import { ImportNoteTimeline } from './import-notes';
import { ImportWork } from './import-work';
import { Imports } from './imports';

/** Bringing records in from files. */
@Module({
  imports: [AssignmentModule],
  controllers: [ImportsController],
  providers: [ImportThreads, ImportFiles, ImportWork, Imports, ImportNoteTimeline],
})
export class ImportsModule {}
