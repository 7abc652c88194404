import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import {
  byName,
  isAwayOn,
  catalogueWith,
  objectKeys,
  objectType,
  policyOf,
  readRules,
  soundRules,
  subjectKeys,
  teamsBelow,
  type Absence,
  permitsOfPart,
  type Act,
  type Actor,
  type Day,
  type Catalogue,
  type Choice,
  type Colleague,
  type CustomField,
  type List,
  type ObjectKey,
  type Rate,
  type RoleHeld,
  type RecordOf,
  type RoleRules,
  type Sells,
  type SetupOperation,
  type Team,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { readAbsences } from './absences';
import { type OrganisationRow } from '../../platform/database/rows';
import { byItself } from '../../platform/http/request-context';

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
  holidays: RecordOf<'holiday'>[];
  currencyFormats: RecordOf<'currencyFormat'>[];
  roles: RoleRecord[];
  /** The roles that people have beside their own, and those that whole teams have. */
  grants: RecordOf<'roleGrant'>[];
  shares: RecordOf<'share'>[];
  /** The teams that people are in beside their main one. */
  members: RecordOf<'teamMember'>[];
  absences: Absence[];
  /** People with what they are permitted, by person and day: the same value as long as all of this stays the same. */
  actors: Map<string, Actor>;
}

type RoleRecord = RecordOf<'role'>;

/** A role with what it permits. */
export interface KnownRole extends Pick<
  RoleRecord,
  'id' | 'key' | 'name' | 'basis' | 'sells' | 'secondStep' | 'retired'
> {
  rules: RoleRules;
}

/** The organisation's settings, its people and its teams: small, read all the time, known to everyone in it. */
@Injectable()
export class Organisation {
  private known?: Promise<Known>;
  private unrated?: Promise<boolean>;
  private made?: { of: string; catalogue: Catalogue };
  private readonly rulesRead = new Map<string, RoleRules>();

  constructor(
    private readonly database: Database,
    private readonly clock: Clock,
  ) {}

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

  /** The holidays of everybody and of teams. */
  async holidays(): Promise<RecordOf<'holiday'>[]> {
    return (await this.read()).holidays;
  }

  /** How amounts are written, where somebody wanted it otherwise than usual. */
  async currencyFormats(): Promise<RecordOf<'currencyFormat'>[]> {
    return (await this.read()).currencyFormats;
  }

  /** Whether amounts on file may stand in a currency that has no rate; looked up anew after a write. */
  mayLackRates(): Promise<boolean> {
    this.unrated ??= byItself(() => this.lookForUnrated()).catch((error: unknown) => {
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

  /** Every role, those retired included, with what it permits. */
  async roles(): Promise<KnownRole[]> {
    const { roles } = await this.read();
    return roles.map((role) => ({ ...role, rules: this.rulesIn(role) }));
  }

  /**
   * A person with their reach: their roles, teams and what is shared with them today. Undefined when they are no longer
   * here.
   */
  async actor(personId: number): Promise<Actor | undefined> {
    const known = await this.read();
    const today = this.clock.today(known.settings.timeZone);
    const name = `${personId} ${today}`;
    let actor = known.actors.get(name);
    if (!actor && (actor = this.makeActor(known, personId, today))) known.actors.set(name, actor);
    return actor;
  }

  private makeActor(known: Known, personId: number, today: Day): Actor | undefined {
    const person = known.people.find(({ id, active }) => id === personId && active);
    if (!person) return undefined;
    const { people, teams } = known;
    const own = teamsIn(person, known.members);
    const above = teamsAbove(own, teams);
    const roles = rolesOf(person, above, known);
    return {
      personId,
      roles: roles.map((role) => ({
        name: role.name,
        ...soundRules(this.rulesIn(role), known.catalogue),
      })),
      teamMates: peopleIn(new Set(own), personId, people, known.members),
      teamPeople: peopleIn(teamsBelow(own, teams), personId, people, known.members),
      teams: above,
      standsInFor: known.absences
        .filter((absence) => absence.substitute === personId && isAwayOn(absence, today))
        .map((absence) => absence.person),
      shared: sharedWith(person, above, known.shares, today),
    };
  }

  /** Who is away today. */
  async absent(): Promise<Absence[]> {
    const { absences, settings } = await this.read();
    const today = this.clock.today(settings.timeZone);
    return absences.filter((absence) => isAwayOn(absence, today));
  }

  /** The roles that somebody has, and through what. */
  async rolesHeld(personId: number): Promise<RoleHeld[]> {
    const { people, teams, roles, grants, members } = await this.read();
    const person = people.find(({ id }) => id === personId);
    if (!person) return [];
    const above = teamsAbove(teamsIn(person, members), teams);
    const nameOf = (key: string) => roles.find((role) => role.key === key)?.name ?? key;
    return [
      { key: person.role, name: nameOf(person.role), through: 'own', team: null },
      ...grants
        .filter((grant) => isGivenTo(grant, personId, above))
        .map(({ role, team }): RoleHeld => ({
          key: role,
          name: nameOf(role),
          through: team === null ? 'grant' : 'team',
          team,
        })),
    ];
  }

  /** Whether a role of somebody asks for a second step at the sign-in. */
  async asksForSecondStep(personId: number): Promise<boolean> {
    const held = new Set((await this.rolesHeld(personId)).map(({ key }) => key));
    const { roles } = await this.read();
    return roles.some(({ key, secondStep }) => secondStep && held.has(key));
  }

  /** The people here who may do something. */
  async whoMay(act: Act): Promise<Colleague[]> {
    return this.mayAmong(await this.read(), act);
  }

  /** The same inside a transaction, as it is so far. */
  async whoMayWithin(manager: EntityManager, act: Act, operation?: SetupOperation): Promise<number[]> {
    return this.mayAmong(await this.load(manager), act, operation).map(({ id }) => id);
  }

  private mayAmong(known: Known, act: Act, operation?: SetupOperation): Colleague[] {
    return known.people.filter(
      (person) =>
        person.active &&
        rolesOf(person, teamsAbove(teamsIn(person, known.members), known.teams), known).some((role) => {
          const rules = this.rulesIn(role);
          return operation ? permitsOfPart(rules, act, operation) : rules.acts.includes(act);
        }),
    );
  }

  /** What a role permits, read once for each of its versions. */
  private rulesIn({ id, version, basis, rules }: RoleRecord): RoleRules {
    const of = `${id} ${version}`;
    let read = this.rulesRead.get(of);
    if (!read) this.rulesRead.set(of, (read = readRules(basis, rules)));
    return read;
  }

  /** The catalogue before, while the fields are the same: what is derived from it is kept by identity. */
  private catalogueOf(own: Pick<Known, 'customFields' | 'choiceLists' | 'roles'>): Catalogue {
    const versions = [own.customFields, own.choiceLists, own.roles].map((all) =>
      all.map(({ id, version }) => [id, version]),
    );
    const made = JSON.stringify(versions);
    if (this.made?.of !== made) {
      const roles = own.roles.map(roleChoice);
      this.made = { of: made, catalogue: catalogueWith({ ...own, roles }) };
    }
    return this.made.catalogue;
  }

  private read() {
    this.known ??= byItself(() => this.load()).catch((error: unknown) => {
      this.known = undefined;
      throw error;
    });
    return this.known;
  }

  private async load(from: DataSource | EntityManager = this.database.reading): Promise<Known> {
    const [settings, people, teams, fields, choices, lists, rates, roleRows, grants, shares, memberRows] =
      await Promise.all([
        from.getRepository<OrganisationRow>('organisation').findOneByOrFail({ id: 1 }),
        from.getRepository<Kept<Colleague>>('person').find(),
        from.getRepository<Kept<Team>>('team').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<CustomField>>('customField').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<RecordOf<'choiceList'>>>('choiceList').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<List>>('list').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<RecordOf<'rate'>>>('rate').find(),
        from.getRepository<Kept<RoleRecord>>('role').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<RecordOf<'roleGrant'>>>('roleGrant').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<RecordOf<'share'>>>('share').find({ order: { id: 'ASC' } }),
        from.getRepository<Kept<RecordOf<'teamMember'>>>('teamMember').find({ order: { id: 'ASC' } }),
      ]);
    const [holidayRows, formatRows] = await Promise.all([
      from.getRepository<Kept<RecordOf<'holiday'>>>('holiday').find({ order: { day: 'ASC', id: 'ASC' } }),
      from.getRepository<Kept<RecordOf<'currencyFormat'>>>('currencyFormat').find({ order: { id: 'ASC' } }),
    ]);
    // Who was deleted stays known by name, for the records they wrote, but can no longer act.
    const roles = onFile<RoleRecord>(roleRows);
    const onFileTeams = onFile<Team>(teams);
    const members = onFile<RecordOf<'teamMember'>>(memberRows);
    const around = { roles, grants: onFile<RecordOf<'roleGrant'>>(grants), members };
    const known = byName(people, settings.country).map(({ photo, ...person }) => ({
      ...person,
      ...(photo == null ? {} : { photo }),
      active: person.active && person.deletedAt === null,
      sells: sellsMost(rolesOf(person, teamsAbove(teamsIn(person, members), onFileTeams), around)),
    }));
    const customFields = onFile<CustomField>(fields);
    const choiceLists = onFile<RecordOf<'choiceList'>>(choices);
    return {
      settings,
      people: known,
      teams: onFileTeams,
      ...around,
      shares: onFile<RecordOf<'share'>>(shares),
      customFields,
      choiceLists,
      catalogue: this.catalogueOf({ customFields, choiceLists, roles }),
      rates: onFile<Rate>(rates),
      holidays: onFile<RecordOf<'holiday'>>(holidayRows),
      currencyFormats: onFile<RecordOf<'currencyFormat'>>(formatRows),
      lists: onFile<List>(lists),
      absences: await readAbsences(from instanceof DataSource ? from.manager : from),
      actors: new Map(),
    };
  }
}

/** A role as one of the choices for a person. */
export const roleChoice = ({ key, name, retired }: Pick<RoleRecord, 'key' | 'name' | 'retired'>): Choice =>
  retired ? { key, label: name, retired: true } : { key, label: name };

const isGivenTo = (
  { person, team }: Pick<RecordOf<'roleGrant'>, 'person' | 'team'>,
  id: number,
  teams: readonly number[],
): boolean => person === id || (team !== null && teams.includes(team));

/** The roles of a person: their own, those given to them, and those given to a team they are in. */
function rolesOf(
  { id, role }: Pick<Colleague, 'id' | 'role'>,
  teams: readonly number[],
  { roles, grants }: Pick<Known, 'roles' | 'grants'>,
): RoleRecord[] {
  const given = grants.filter((grant) => isGivenTo(grant, id, teams));
  const keys = new Set([role, ...given.map((grant) => grant.role)]);
  return roles.filter(({ key }) => keys.has(key));
}

const sellsMost = (roles: readonly RoleRecord[]): Sells =>
  (['always', 'sometimes'] as const).find((sells) => roles.some((role) => role.sells === sells)) ?? 'never';

/** The records that are shared with a person, or a team of theirs, on a day. */
function sharedWith(
  { id }: Colleague,
  teams: readonly number[],
  shares: readonly RecordOf<'share'>[],
  today: string,
): Actor['shared'] {
  const see: Partial<Record<ObjectKey, number[]>> = {};
  const edit: Partial<Record<ObjectKey, number[]>> = {};
  for (const share of shares) {
    if (share.until !== null && share.until < today) continue;
    if (share.person !== id && (share.team === null || !teams.includes(share.team))) continue;
    for (const subject of subjectKeys) {
      const record = share[subject];
      if (record === null) continue;
      (see[subject] ??= []).push(record);
      if (share.may === 'edit') (edit[subject] ??= []).push(record);
    }
  }
  return { see, edit };
}

/** The teams a person is in: their main one, and others. */
const teamsIn = (
  { id, team }: Pick<Colleague, 'id' | 'team'>,
  members: readonly RecordOf<'teamMember'>[],
): number[] => [
  ...(team === null ? [] : [team]),
  ...members.filter(({ person }) => person === id).map((member) => member.team),
];

/** A person and everyone in some teams. */
const peopleIn = (
  teams: ReadonlySet<number>,
  personId: number,
  people: readonly Colleague[],
  members: readonly RecordOf<'teamMember'>[],
): number[] => {
  const also = new Set(members.filter(({ team }) => teams.has(team)).map(({ person }) => person));
  return people
    .filter(({ id, team }) => id === personId || (team !== null && teams.has(team)) || also.has(id))
    .map(({ id }) => id);
};

/** Some teams and those above them. */
function teamsAbove(own: readonly number[], teams: readonly Team[]): number[] {
  const above: number[] = [];
  for (const team of own)
    for (let at: number | null = team; at !== null && !above.includes(at);) {
      above.push(at);
      const found: Team | undefined = teams.find(({ id }) => id === at);
      at = found?.parent ?? null;
    }
  return above;
}
