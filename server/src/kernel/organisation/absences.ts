import { In, type EntityManager } from 'typeorm';
import { absenceOf, absencePreferences, type Absence, type Preferences } from '@zawn/core';
import { type PreferenceRow } from '../../platform/database/rows';

/** The absences that people have set for themselves, those that are over included. */
export async function readAbsences(manager: EntityManager): Promise<Absence[]> {
  const rows = await manager.findBy<PreferenceRow>('preference', { name: In([...absencePreferences]) });
  const byPerson = new Map<number, Preferences>();
  for (const { person, name, value } of rows)
    byPerson.set(person, { ...byPerson.get(person), [name]: JSON.parse(value) as unknown });
  return [...byPerson].flatMap(([person, preferences]) => absenceOf(person, preferences) ?? []);
}
