import { Module } from '@nestjs/common';
import { AssignmentController } from './assignment.controller';
import { Assignment } from './assignment';
import { Territories } from './territories';
import { TerritoriesController } from './territories.controller';

/** Who gets a lead: the rules, and trying them out; and which team accounts and leads belong to. */
@Module({
  controllers: [AssignmentController, TerritoriesController],
  providers: [Assignment, Territories],
  exports: [Assignment],
})
export class AssignmentModule {}
