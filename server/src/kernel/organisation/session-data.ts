import { Injectable } from '@nestjs/common';
import {
  ask,
  objectType,
  type Actor,
  type Colleague,
  type ObjectKey,
  type RecordOf,
  type SessionData as Answer,
} from '@zawn/core';
import { Gate } from '../questions/gate';
import { Organisation, roleChoice } from './organisation';
import { PreferenceStore } from './preferences';

/** More set-up records of one kind than any organisation has. */
const ALL = 1000;

/** Everything around the records that a browser needs once: the person, colleagues, teams, pipelines, settings. */
@Injectable()
export class SessionData {
  constructor(
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly preferences: PreferenceStore,
  ) {}

  async of(actor: Actor): Promise<Answer> {
    const [settings, people, teams, context, rates, absences] = await Promise.all([
      this.organisation.settings(),
      this.organisation.people(),
      this.organisation.teams(),
      this.gate.context(actor),
      this.organisation.rates(),
      this.organisation.absent(),
    ]);
    const away = new Map(absences.map(({ person, until }) => [person, until]));
    const colleagues = people.map(({ id, name, email, role, sells, jobTitle, team, active }): Colleague => ({
      id,
      name,
      email,
      role,
      sells,
      jobTitle,
      team,
      active,
      ...(away.has(id) ? { awayUntil: away.get(id) } : {}),
    }));
    const { name, currency, timeZone, country, fiscalYearStart, weekStart } = settings;
    return {
      actor,
      me: colleagues.find(({ id }) => id === actor.personId) as Colleague,
      team: actor.teamPeople,
      today: context.today,
      organisation: { name, currency, timeZone, country, fiscalYearStart, weekStart },
      people: colleagues,
      teams: teams.map((team) => ({ id: team.id, name: team.name, parent: team.parent })),
      pipelines: await this.all(actor, 'pipeline'),
      stages: await this.all(actor, 'stage'),
      rates: rates.map(({ currency: of, validFrom, rate }) => ({ currency: of, validFrom, rate })),
      customFields: await this.organisation.customFields(),
      choiceLists: await this.organisation.choiceLists(),
      roles: (await this.organisation.roles()).map(roleChoice),
      preferences: await this.preferences.of(actor.personId),
    };
  }

  private async all<K extends ObjectKey>(actor: Actor, object: K): Promise<RecordOf<K>[]> {
    const ordered = Object.hasOwn(objectType(object).fields, 'position') ? [{ field: 'position' }] : [];
    const { rows } = await this.gate.records(
      actor,
      { ...ask(object), sort: ordered },
      { offset: 0, limit: ALL },
    );
    return rows as unknown as RecordOf<K>[];
  }
}
