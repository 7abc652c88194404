import { Module } from '@nestjs/common';
import { AssignmentController } from './assignment.controller';
import { Assignment } from './assignment';

/** Who gets a lead: the rules, and trying them out. */
@Module({ controllers: [AssignmentController], providers: [Assignment], exports: [Assignment] })
export class AssignmentModule {}
