import { Injectable } from '@nestjs/common';
import { type Preferences } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Organisation } from './organisation';
import { type PreferenceRow } from '../../platform/database/rows';

/** What each person set for themselves. It concerns nobody else, so it is not in the change log. */
@Injectable()
export class PreferenceStore {
  private readonly watchers: ((person: number, names: readonly string[]) => Promise<void>)[] = [];

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  async of(person: number): Promise<Preferences> {
    const rows = await this.database.reading.getRepository<PreferenceRow>('preference').findBy({ person });
    return Object.fromEntries(rows.map(({ name, value }) => [name, JSON.parse(value) as unknown]));
  }

  /** Everyone's preferences of one name. */
  async all<K extends keyof Preferences>(name: K): Promise<{ person: number; value: Preferences[K] }[]> {
    const rows = await this.database.reading.getRepository<PreferenceRow>('preference').findBy({ name });
    return rows.map(({ person, value }) => ({ person, value: JSON.parse(value) as Preferences[K] }));
  }

  async set(person: number, changes: Preferences): Promise<Preferences> {
    await this.database.writer.transaction(async (manager) => {
      const rows = Object.entries(changes).map(([name, value]) => ({
        person,
        name,
        value: JSON.stringify(value),
      }));
      if (rows.length > 0) await manager.upsert('preference', rows, ['person', 'name']);
    });
    // Who is away, and who stands in, is part of who may see what.
    this.organisation.forget();
    for (const watch of this.watchers) await watch(person, Object.keys(changes));
    return this.of(person);
  }

  /** Has something done whenever somebody has set something for themselves. */
  watch(watch: (person: number, names: readonly string[]) => Promise<void>): void {
    this.watchers.push(watch);
  }
}
