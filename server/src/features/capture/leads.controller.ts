import { Body, Controller, Get, Param, Post } from '@nestjs/common';
import { type Actor, type Alike, type AnyRecord, type Written } from '@zawn/core';
import { recordId } from '../../platform/http/record-id';
import { AlikeFinder } from '../matching/alike';
import { Gate } from '../../kernel/questions/gate';
import { type WriteContext } from '../../kernel/records/door';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { Capture } from './capture';
import { ForPrograms, ForTokens } from '../../platform/sessions/scopes';

@ForPrograms()
@Controller('api/v1/leads')
export class LeadsController {
  constructor(
    private readonly capture: Capture,
    private readonly gate: Gate,
    private readonly alike: AlikeFinder,
  ) {}

  /** Takes a lead in, from a person or a program. The same `Idempotency-Key` again makes no second one. */
  @ForTokens('leads', 'all')
  @Post()
  create(@ByHand() writing: WriteContext, @Body() body: unknown): Promise<Written<AnyRecord>> {
    return this.capture.lead(writing, body);
  }

  /** Who or what on file the lead may be, the likeliest first, with why. */
  @Get(':id/alike')
  async alikeTo(@CurrentActor() actor: Actor, @Param('id') id: string): Promise<{ alike: Alike[] }> {
    const lead = await this.gate.find(actor, 'lead', recordId(id));
    return { alike: await this.alike.to(actor, lead, lead.id) };
  }
}
