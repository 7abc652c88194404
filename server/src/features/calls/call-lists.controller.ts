import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  callable,
  type Actor,
  type AnyRecord,
  type CallListProgress,
  type NextOfList,
  type Written,
} from '@zawn/core';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { type WriteContext } from '../../kernel/records/door';
import { CallLists, type NewCallList } from './call-lists';

const making = Joi.object<NewCallList>({
  name: Joi.string().trim().max(80).required().label('Name'),
  question: Joi.object({
    object: Joi.string()
      .valid(...callable.map(({ key }) => key))
      .required()
      .label('What is called'),
  })
    .unknown()
    .required()
    .label('Question'),
  passReached: Joi.number().integer().min(1).max(365).allow(null).label('Days'),
  officeHours: Joi.boolean().required().label('Only in office hours'),
  sharing: Joi.string().valid('private', 'team', 'everyone').required().label('Shared with'),
});

/** Lists that are called one after the other. */
@Controller('api/v1/call-lists')
export class CallListsController {
  constructor(private readonly lists: CallLists) {}

  /** Makes a call list of what answers a question now. */
  @Post()
  async makeCallList(
    @ByHand() writing: WriteContext,
    @CheckedBody(making) body: CheckedAs<typeof making>,
  ): Promise<Written<AnyRecord>> {
    return this.lists.make(writing, body);
  }

  /** How far a call list is. */
  @Get(':id/progress')
  async progress(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<CallListProgress> {
    return this.lists.progress(actor, id);
  }

  /** Rings the next on a call list. */
  @Post(':id/next')
  @HttpCode(200)
  async next(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<NextOfList> {
    return this.lists.next(writing, id);
  }

  /** Lets everybody on a call list wait again. */
  @Post(':id/again')
  @HttpCode(200)
  async again(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<CallListProgress> {
    return this.lists.again(writing, id);
  }
}
