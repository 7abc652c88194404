import { Controller, Get, Req } from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { type Request } from 'express';
import { Organisation } from '../organisation/organisation';
import { version } from '../../platform/config/version';
import { describeApi } from './describe';
import { routesIn } from './routes';
import { ForPrograms, ForTokens } from '../../platform/sessions/scopes';

@ForPrograms()
@Controller('api/v1/openapi.json')
export class OpenApiController {
  constructor(
    private readonly organisation: Organisation,
    private readonly discovery: DiscoveryService,
  ) {}

  /** The API in the organisation's own fields, as an OpenAPI 3.1 document. */
  @ForTokens('leads', 'read', 'all')
  @Get()
  async read(@Req() request: Request): Promise<object> {
    const [catalogue, { country }] = await Promise.all([
      this.organisation.catalogue(),
      this.organisation.settings(),
    ]);
    const address = `${request.protocol}://${request.get('Host')}`;
    return describeApi(routesIn(this.discovery), catalogue, { locale: { country }, address, version });
  }
}
