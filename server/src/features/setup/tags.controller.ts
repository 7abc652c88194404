import { Controller, Get } from '@nestjs/common';
import { byName, objectKeys, storedFields, type ObjectKey, type TagUses } from '@zawn/core';
import { May } from '../../platform/sessions/may';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { Organisation } from '../../kernel/organisation/organisation';
import { ForPrograms } from '../../platform/sessions/scopes';

/** The objects whose records are tagged. */
const tagged: readonly ObjectKey[] = objectKeys.filter((object) =>
  storedFields(object).some(([key, { type }]) => key === 'tags' && type === 'tags'),
);

@May('setUpFields', 'Your role does not let you look after the tags.')
@ForPrograms()
@Controller('api/v1/tag-uses')
export class TagsController {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  /** Every tag in use, by name, with how many records of each kind carry it. */
  @Get()
  async uses(): Promise<{ tags: TagUses[] }> {
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
