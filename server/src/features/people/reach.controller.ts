import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  type Actor,
  type ObjectKey,
  type PersonReach,
  type RecordReach,
  type RoleChanges,
  type RolePreview,
} from '@zawn/core';
import { CheckedBody, ObjectAt, RecordId, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { LooksAfterPeople } from '../../kernel/sessions/looks-after-people';
import { ReachTeller } from './reach';

const trying = Joi.object<{ role: string; rules: RoleChanges }>({
  role: Joi.string().max(40).required(),
  rules: Joi.object().unknown().required(),
});

/** What somebody can see and do, for whoever looks after people. */
@LooksAfterPeople()
@Controller('api/v1')
export class ReachController {
  constructor(private readonly reach: ReachTeller) {}

  /** What somebody can see and do with each kind of records, in counts and examples. */
  @Get('people/:id/reach')
  reachOf(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<PersonReach> {
    return this.reach.of(actor, id);
  }

  /** Whether somebody may do something with one record, and what decides. */
  @Get('people/:person/reach/:objects/:id')
  onRecord(
    @CurrentActor() actor: Actor,
    @RecordId('person') person: number,
    @ObjectAt() object: ObjectKey,
    @RecordId() id: number,
  ): Promise<RecordReach> {
    return this.reach.onRecord(actor, person, object, id);
  }

  /** Who would gain and lose what by a change of a role, in counts. Nothing is written. */
  @Post('role-preview')
  @HttpCode(200)
  preview(@CheckedBody(trying) { role, rules }: CheckedAs<typeof trying>): Promise<RolePreview> {
    return this.reach.preview(role, rules);
  }
}
