import { Controller, Get, HttpCode, Post, Req } from '@nestjs/common';
import { policyOf, type DemoCompany } from '@zawn/core';
import { Organisation } from '../../kernel/organisation/organisation';
import { Problem } from '../../platform/http/problem';
import { Public, type SignedInRequest } from '../../platform/sessions/current-actor';
import { DemoBeside } from './demo-beside';

/** A demo company to look around in: for whoever is about to create an organisation, and for those who set one up. */
@Controller('api/v1/demo-company')
export class DemoBesideController {
  constructor(
    private readonly beside: DemoBeside,
    private readonly organisation: Organisation,
  ) {}

  /** Whether there can be one here. */
  @Public()
  @Get()
  offer(): DemoCompany {
    return { isOffered: this.beside.isOffered };
  }

  /** Starts it beside this organisation, with data of its own; the answer is where it is. */
  @Public()
  @Post()
  @HttpCode(200)
  async start(@Req() request: SignedInRequest): Promise<DemoCompany> {
    const maySetUp = request.actor && policyOf(request.actor).may('setUpMoney');
    if (!maySetUp && (await this.organisation.exists()))
      throw new Problem(
        'not-allowed',
        'Whoever sets up Zawn in your organisation can open the demo company.',
      );
    const port = await this.beside.start();
    return { isOffered: true, address: `http://${request.hostname}:${port}` };
  }
}
