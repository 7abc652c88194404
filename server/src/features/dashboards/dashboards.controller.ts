import { Controller, Get } from '@nestjs/common';
import { type Actor, type Usage } from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';
import { Gate } from '../../kernel/questions/gate';
import { Usages } from '../../kernel/views/usages';

/** What is asked of dashboards beyond what is asked of every record. */
@Controller('api/v1/dashboards')
export class DashboardsController {
  constructor(
    private readonly gate: Gate,
    private readonly usages: Usages,
  ) {}

  /** Who begins with a dashboard, and which packs show it. */
  @ForTokens('read', 'all')
  @Get(':id/usage')
  async usage(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Usage> {
    const { id: dashboard } = await this.gate.find(actor, 'dashboard', id);
    return {
      people: await this.usages.othersWith(actor, 'home', (home) => home === String(dashboard)),
      views: [],
      shownOn: await this.usages.shownOn(actor, { dashboard }),
    };
  }
}
