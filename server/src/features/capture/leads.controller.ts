import { Body, Controller, Get, Post } from '@nestjs/common';
import { type Actor, type Alike, type AnyRecord, type Written } from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { TakesValues } from '../../platform/http/described';
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
  @TakesValues({ purpose: 'create', object: 'lead' })
  @Post()
  create(@ByHand() writing: WriteContext, @Body() body: unknown): Promise<Written<AnyRecord>> {
    return this.capture.lead(writing, body);
  }

  /** Who or what on file the lead may be, the likeliest first, with why. */
  @Get(':id/alike')
  async alikeTo(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<{ alike: Alike[] }> {
    const lead = await this.gate.find(actor, 'lead', id);
    return { alike: await this.alike.to(actor, lead, lead.id) };
  }
}
