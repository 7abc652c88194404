import { Injectable } from '@nestjs/common';
import {
  ask,
  objectType,
  profileFields,
  type Actor,
  type BusinessHours,
  type Colleague,
  type ObjectKey,
  type Profile,
  type RecordOf,
  type SessionData as Answer,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { lastChange } from '../../platform/database/last-change';
import { Gate } from '../questions/gate';
import { Organisation, roleChoice } from './organisation';
import { PreferenceStore } from './preferences';

/** More set-up records of one kind than any organisation has. */
const ALL = 1000;

/** The hours in a row as it is kept: its working days are JSON. */
const hoursOf = ({ workingDays, opens, closes }: BusinessHours): BusinessHours => ({
  workingDays: typeof workingDays === 'string' ? (JSON.parse(workingDays) as string[]) : workingDays,
  opens,
  closes,
});

/** Everything around the records that a browser needs once: the person, colleagues, teams, pipelines, settings. */
@Injectable()
export class SessionData {
  constructor(
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly preferences: PreferenceStore,
    private readonly database: Database,
  ) {}

  async of(actor: Actor): Promise<Answer> {
    // Before anything is read: what is written from here on may not be in the answer.
    const seen = await lastChange(this.database.reading.manager);
    const [settings, people, teams, context, rates, absences, holidays, formats] = await Promise.all([
      this.organisation.settings(),
      this.organisation.people(),
      this.organisation.teams(),
      this.gate.context(actor),
      this.organisation.rates(),
      this.organisation.absent(),
      this.organisation.holidays(),
      this.organisation.currencyFormats(),
    ]);
    const away = new Map(absences.map(({ person, until }) => [person, until]));
    const colleagues = people.map(
      ({ id, name, email, role, sells, jobTitle, team, active, photo }): Colleague => ({
        id,
        name,
        email,
        role,
        sells,
        jobTitle,
        team,
        active,
        ...(photo === undefined ? {} : { photo }),
        ...(away.has(id) ? { awayUntil: away.get(id) } : {}),
      }),
    );
    const { name, currency, timeZone, country, fiscalYearStart, fiscalYearName, weekStart } = settings;
    const lastYear = `${Number(context.today.slice(0, 4)) - 1}-01-01`;
    return {
      actor,
      me: colleagues.find(({ id }) => id === actor.personId) as Colleague,
      team: actor.teamPeople,
      lastChange: seen,
      today: context.today,
      organisation: {
        name,
        currency,
        timeZone,
        country,
        fiscalYearStart,
        fiscalYearName,
        weekStart,
        keepBin: settings.keepBin,
        wordsYear: settings.wordsYear,
        wordsDate: settings.wordsDate,
        wordsCustomers: settings.wordsCustomers,
        wordsWith: settings.wordsWith,
        ...hoursOf(settings),
      },
      holidays: holidays
        .filter(({ day }) => day >= lastYear)
        .map(({ day, name: called, team }) => ({ day, name: called, team })),
      currencyFormats: formats.map(({ currency: of, symbol, decimals, place }) => ({
        currency: of,
        symbol,
        decimals,
        place,
      })),
      profile: await this.profileOf(actor.personId),
      people: colleagues,
      teams: teams.map((team) => ({ id: team.id, name: team.name, parent: team.parent, ...hoursOf(team) })),
      pipelines: await this.all(actor, 'pipeline'),
      stages: await this.all(actor, 'stage'),
      pipelineTeams: await this.all(actor, 'pipelineTeam'),
      rates: rates.map(({ currency: of, validFrom, rate }) => ({ currency: of, validFrom, rate })),
      customFields: await this.organisation.customFields(),
      choiceLists: await this.organisation.choiceLists(),
      roles: (await this.organisation.roles()).map(roleChoice),
      preferences: await this.preferences.of(actor.personId),
    };
  }

  private async profileOf(id: number): Promise<Profile> {
    const person = await this.database.reading.manager.findOneByOrFail<RecordOf<'person'>>('person', { id });
    const fields = profileFields.map((field) => [field, person[field]]);
    return { ...(Object.fromEntries(fields) as Profile), ...hoursOf(person) };
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
