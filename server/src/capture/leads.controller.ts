import { Body, Controller, Post } from '@nestjs/common';
import { type AnyRecord, type Written } from '@zawn/core';
import { type Writing } from '../records/door';
import { ByHand } from '../sessions/asking';
import { Capture } from './capture';

@Controller('api/v1/leads')
export class LeadsController {
  constructor(private readonly capture: Capture) {}

  /** Takes a lead in, from a person or a program. The same `Idempotency-Key` again makes no second one. */
  @Post()
  create(@ByHand() writing: Writing, @Body() body: unknown): Promise<Written<AnyRecord>> {
    return this.capture.lead(writing, body);
  }
}
