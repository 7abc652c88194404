import { Controller, Get, Query } from '@nestjs/common';
import { type Actor, type Hit } from '@zawn/core';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { Search } from './search';
import { ForPrograms } from '../../platform/sessions/scopes';

const LONGEST = 100;

@ForPrograms()
@Controller('api/v1/search')
export class SearchController {
  constructor(private readonly search: Search) {}

  /** The records that a few typed letters may mean, the likeliest first, within the person's reach. */
  @Get()
  async find(@CurrentActor() actor: Actor, @Query('q') text: unknown): Promise<{ hits: Hit[] }> {
    return { hits: typeof text === 'string' ? await this.search.find(actor, text.slice(0, LONGEST)) : [] };
  }
}
