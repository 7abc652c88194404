import { Controller, Get } from '@nestjs/common';
import {
  byName,
  objectKeys,
  policyOf,
  storedFields,
  type Actor,
  type ObjectKey,
  type TagUses,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';

/** The objects whose records are tagged. */
const tagged: readonly ObjectKey[] = objectKeys.filter((object) =>
  storedFields(object).some(([key, { type }]) => key === 'tags' && type === 'tags'),
);

@ForPrograms()
@Controller('api/v1/tag-uses')
export class TagsController {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  /** Every tag in use, by name, with how many records of each kind carry it. */
  @Get()
  async uses(@CurrentActor() actor: Actor): Promise<{ tags: TagUses[] }> {
    if (!policyOf(actor).may('setUp'))
      throw new Problem('not-allowed', 'Only operations can look after the tags.');
    const found = new Map<string, TagUses>();
    for (const object of tagged) {
      const rows = await this.database.reading.query<{ member: string; uses: number }[]>(
        dialect.usesOfMembers(object, 'tags'),
      );
      for (const { member, uses } of rows) {
        const tag = found.get(member) ?? { name: member, uses: {} };
        tag.uses[object] = uses;
        found.set(member, tag);
      }
    }
    const { country } = await this.organisation.settings();
    return { tags: byName([...found.values()], country) };
  }
}
