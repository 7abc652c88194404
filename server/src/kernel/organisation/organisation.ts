import { Injectable } from '@nestjs/common';
import {
  byName,
  catalogueWith,
  objectKeys,
  objectType,
  policyOf,
  type Actor,
  type Catalogue,
  type Colleague,
  type CustomField,
  type List,
  type Rate,
  type RecordOf,
  type Team,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type OrganisationRow } from '../../platform/database/rows';

type Kept<T> = T & { deletedAt: string | null };

/** The rows that are not in the bin, as what they are rows of. */
const onFile = <T>(rows: readonly Kept<T>[]): T[] =>
  rows.filter(({ deletedAt }) => deletedAt === null).map(({ deletedAt: _, ...row }) => row as T);

interface Known {
  settings: OrganisationRow;
  people: Colleague[];
  teams: Team[];
  customFields: CustomField[];
  choiceLists: RecordOf<'choiceList'>[];
  catalogue: Catalogue;
  lists: List[];
  rates: Rate[];
}

/** The organisation's settings, its people and its teams: small, read all the time, known to everyone in it. */
@Injectable()
export class Organisation {
  private known?: Promise<Known>;
  private unrated?: Promise<boolean>;
  private made?: { of: string; catalogue: Catalogue };

  constructor(private readonly database: Database) {}

  /** Makes the next look read afresh; the door calls it when any of this was written. */
  forget(): void {
    this.known = undefined;
    this.unrated = undefined;
  }

  /** Whether the organisation has been created yet. */
  async exists(): Promise<boolean> {
    // One that was stopped while it was being created has nobody in it yet, and is created anew.
    const { manager } = this.database.reading;
    return (await manager.count('organisation')) > 0 && (await manager.count('person')) > 0;
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

  /** The built-in fields and the organisation's own. The same value until something of it is written. */
  async catalogue(): Promise<Catalogue> {
    return (await this.read()).catalogue;
  }

  async customFields(): Promise<CustomField[]> {
    return (await this.read()).customFields;
  }

  /** The lists of choices that are the organisation's own. */
  async choiceLists(): Promise<RecordOf<'choiceList'>[]> {
    return (await this.read()).choiceLists;
  }

  /** The ids of the lists that are a person's own or shared with them. */
  async listsFor(actor: Actor): Promise<number[]> {
    const { lists } = await this.read();
    const policy = policyOf(actor);
    return lists.filter((list) => policy.isShared(list)).map(({ id }) => id);
  }

  /** The rates at which other currencies are reported. */
  async rates(): Promise<Rate[]> {
    return (await this.read()).rates;
  }

  /** Whether amounts on file may stand in a currency that has no rate; looked up anew after a write. */
  mayLackRates(): Promise<boolean> {
    this.unrated ??= this.lookForUnrated().catch((error: unknown) => {
      this.unrated = undefined;
      throw error;
    });
    return this.unrated;
  }

  private async lookForUnrated(): Promise<boolean> {
    const { settings, rates } = await this.read();
    const known = new Set([settings.currency, ...rates.map(({ currency }) => currency)]);
    for (const object of objectKeys) {
      const { fields } = objectType(object);
      if (!Object.hasOwn(fields, 'currency')) continue;
      const [sql, parameters] = this.database.reading
        .createQueryBuilder()
        .select('DISTINCT r.currency', 'currency')
        .from(object, 'r')
        .where('r.deletedAt IS NULL')
        .getQueryAndParameters();
      const found = await this.database.reader.many({ sql, parameters });
      if (found.some(({ currency }) => typeof currency === 'string' && !known.has(currency))) return true;
    }
    return false;
  }

  /** A person with their reach: their team and every team below it. Undefined when they are no longer here. */
  async actor(personId: number): Promise<Actor | undefined> {
    const { people, teams } = await this.read();
    const person = people.find(({ id, active }) => id === personId && active);
    if (!person) return undefined;
    return {
      personId,
      role: person.role,
      teamPeople: peopleBelow(person, people, teams),
      teams: teamsAbove(person, teams),
    };
  }

  /** The catalogue before, while the fields are the same: what is derived from it is kept by identity. */
  private catalogueOf(own: Pick<Known, 'customFields' | 'choiceLists'>): Catalogue {
    const versions = [own.customFields, own.choiceLists].map((all) =>
      all.map(({ id, version }) => [id, version]),
    );
    const made = JSON.stringify(versions);
    if (this.made?.of !== made) this.made = { of: made, catalogue: catalogueWith(own) };
    return this.made.catalogue;
  }

  private read() {
    this.known ??= this.load().catch((error: unknown) => {
      this.known = undefined;
      throw error;
    });
    return this.known;
  }

  private async load(): Promise<Known> {
    const [settings, people, teams, fields, choices, lists, rates] = await Promise.all([
      this.database.reading.getRepository<OrganisationRow>('organisation').findOneByOrFail({ id: 1 }),
      this.database.reading.getRepository<Kept<Colleague>>('person').find(),
      this.database.reading.getRepository<Kept<Team>>('team').find({ order: { id: 'ASC' } }),
      this.database.reading.getRepository<Kept<CustomField>>('customField').find({ order: { id: 'ASC' } }),
      this.database.reading
        .getRepository<Kept<RecordOf<'choiceList'>>>('choiceList')
        .find({ order: { id: 'ASC' } }),
      this.database.reading.getRepository<Kept<List>>('list').find({ order: { id: 'ASC' } }),
      this.database.reading.getRepository<Kept<RecordOf<'rate'>>>('rate').find(),
    ]);
    // Who was deleted stays known by name, for the records they wrote, but can no longer act.
    const known = byName(people, settings.country).map((person) => ({
      ...person,
      active: person.active && person.deletedAt === null,
    }));
    const customFields = onFile<CustomField>(fields);
    const choiceLists = onFile<RecordOf<'choiceList'>>(choices);
    return {
      settings,
      people: known,
      teams: onFile<Team>(teams),
      customFields,
      choiceLists,
      catalogue: this.catalogueOf({ customFields, choiceLists }),
      rates: onFile<Rate>(rates),
      lists: onFile<List>(lists),
    };
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

/** The person's team and those above it. */
function teamsAbove({ team }: Colleague, teams: readonly Team[]): number[] {
  const above: number[] = [];
  for (let at = team; at !== null && !above.includes(at);) {
    above.push(at);
    at = teams.find(({ id }) => id === at)?.parent ?? null;
  }
  return above;
}
