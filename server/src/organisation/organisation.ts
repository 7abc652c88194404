import { Injectable } from '@nestjs/common';
import { type Actor, type Colleague, type Rate, type Team } from '@zawn/core';
import { Database } from '../database/database';
import { type OrganisationRow } from '../database/entities';

/** The organisation's settings, its people and its teams: small, read all the time, known to everyone in it. */
@Injectable()
export class Organisation {
  private known?: Promise<{ settings: OrganisationRow; people: Colleague[]; teams: Team[] }>;

  constructor(private readonly database: Database) {}

  /** Makes the next look read afresh; the door calls it when any of this was written. */
  forget(): void {
    this.known = undefined;
  }

  /** Whether the organisation has been created yet. */
  async exists(): Promise<boolean> {
    return (await this.database.reading.getRepository<OrganisationRow>('organisation').count()) > 0;
  }

  async settings(): Promise<OrganisationRow> {
    return (await this.read()).settings;
  }

  async people(): Promise<Colleague[]> {
    return (await this.read()).people;
  }

  async teams(): Promise<Team[]> {
    return (await this.read()).teams;
  }

  /** The rates at which other currencies are reported. */
  async rates(): Promise<Rate[]> {
    return this.database.reading.getRepository<Rate>('rate').find();
  }

  /** A person with their reach: their team and every team below it. Undefined when they are no longer here. */
  async actor(personId: number): Promise<Actor | undefined> {
    const { people, teams } = await this.read();
    const person = people.find(({ id, active }) => id === personId && active);
    if (!person) return undefined;
    return { personId, role: person.role, teamPeople: peopleBelow(person, people, teams) };
  }

  private read() {
    this.known ??= this.load().catch((error: unknown) => {
      this.known = undefined;
      throw error;
    });
    return this.known;
  }

  private async load() {
    const [settings, people, teams] = await Promise.all([
      this.database.reading.getRepository<OrganisationRow>('organisation').findOneByOrFail({ id: 1 }),
      this.database.reading
        .getRepository<Colleague & { deletedAt: string | null }>('person')
        .find({ order: { name: 'ASC' } }),
      this.database.reading.getRepository<Team>('team').find({ order: { id: 'ASC' } }),
    ]);
    // Who was deleted stays known by name, for the records they wrote, but can no longer act.
    const known = people.map((person) => ({ ...person, active: person.active && person.deletedAt === null }));
    return { settings, people: known, teams };
  }
}

/** The person and everyone in their team and the teams below. */
function peopleBelow(person: Colleague, people: readonly Colleague[], teams: readonly Team[]): number[] {
  const reached = new Set<number>(person.team === null ? [] : [person.team]);
  // Teams may be listed in any order, so look again until nothing is added.
  for (let size = -1; size !== reached.size;) {
    size = reached.size;
    for (const { id, parent } of teams) if (parent !== null && reached.has(parent)) reached.add(id);
  }
  const below = people.filter(({ id, team }) => id === person.id || (team !== null && reached.has(team)));
  return below.map(({ id }) => id);
}
