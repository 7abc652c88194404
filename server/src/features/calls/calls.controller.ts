import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  subjectKeys,
  type Actor,
  type AnyRecord,
  type CurrentCall,
  type PhoneCall,
  type Written,
} from '@zawn/core';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Clock } from '../../platform/clock/clock';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { type WriteContext } from '../../kernel/records/door';
import { ending, type Ending } from '../activities/finish';
import { Calls, type Wanted } from './calls';

const number = Joi.string().trim().max(40).required().label('Number');

const wanted = Joi.object<Wanted>({
  number: number.optional(),
  on: Joi.object({
    object: Joi.string()
      .valid(...subjectKeys)
      .required(),
    id: Joi.number().integer().min(1).required(),
  }),
  activity: Joi.number().integer().min(1),
  anyway: Joi.boolean(),
}).or('number', 'on', 'activity');

const calling = Joi.object<{ number: string }>({ number });
const settling = Joi.object<Ending>(ending);
const naming = Joi.object<{ name: string }>({ name: Joi.string().trim().max(200).required().label('Name') });

/** Calls from here and to here. */
@Controller('api/v1/calls')
export class CallsController {
  constructor(
    private readonly calls: Calls,
    private readonly clock: Clock,
  ) {}

  /** The call that goes on, or the last of which nothing is said yet. */
  @Get('current')
  async current(@CurrentActor() actor: Actor): Promise<CurrentCall> {
    return { call: await this.calls.current(actor), now: this.clock.now() };
  }

  /** Rings a number. */
  @Post()
  async ring(
    @ByHand() writing: WriteContext,
    @CheckedBody(wanted) body: CheckedAs<typeof wanted>,
  ): Promise<PhoneCall> {
    return this.calls.ring(writing, body);
  }

  /** Lets the phone stand-in ring whoever asks, from a number. */
  @Post('incoming')
  async comesIn(
    @ByHand() writing: WriteContext,
    @CheckedBody(calling) body: CheckedAs<typeof calling>,
  ): Promise<PhoneCall> {
    return this.calls.comesIn(writing, body.number);
  }

  /** Takes a call that rings. */
  @Post(':id/answer')
  @HttpCode(200)
  async answer(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<PhoneCall> {
    return this.calls.answer(writing, id);
  }

  /** Ends a call. */
  @Post(':id/hang-up')
  @HttpCode(200)
  async hangUp(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<PhoneCall> {
    return this.calls.hangUp(writing, id);
  }

  /** Writes down what came of a call, and what follows. */
  @Post(':id/outcome')
  @HttpCode(200)
  async settle(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(settling) how: CheckedAs<typeof settling>,
  ): Promise<Written<AnyRecord>> {
    return this.calls.settle(writing, id, how);
  }

  /** Makes a lead of whoever calls from a number that nobody here has. */
  @Post(':id/lead')
  async makeLead(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(naming) { name }: CheckedAs<typeof naming>,
  ): Promise<Written<AnyRecord>> {
    return this.calls.makeLead(writing, id, name);
  }
}
