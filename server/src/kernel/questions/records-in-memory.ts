import {
  ask,
  fieldsOf,
  type Actor,
  type AnyRecord,
  type Catalogue,
  type ObjectKey,
  type Rate,
  type Surroundings,
} from '@zawn/core';
import { type TestServer } from '../../testing';
import { Organisation } from '../organisation/organisation';
import { asked } from './any-question';
import { Gate } from './gate';

/** All records of a test server as they are held in memory, for holding what the database answers to it. */
export type Records = ReadonlyMap<ObjectKey, readonly AnyRecord[]>;

const EVERYTHING = 1_000_000;

/** A person of the demo by the beginning of their address. */
export async function actorNamed(server: TestServer, email: string): Promise<Actor> {
  const organisation = server.app.get(Organisation);
  const person = (await organisation.people()).find((each) => each.email.startsWith(`${email}@`));
  return (await organisation.actor(person?.id ?? 0)) as Actor;
}

/** The earliest open activity of each deal. */
function nextSteps(activities: readonly AnyRecord[]): Map<number, string> {
  const steps = new Map<number, string>();
  for (const { deal, doneAt, dueOn } of activities) {
    if (deal === null || doneAt !== null || dueOn === null) continue;
    const known = steps.get(Number(deal));
    if (known === undefined || String(dueOn) < known) steps.set(Number(deal), String(dueOn));
  }
  return steps;
}

/** Every record as it is kept: what is computed from others is left to whoever reads it. */
export async function storedRecords(server: TestServer, catalogue: Catalogue): Promise<Records> {
  const operations = await actorNamed(server, 'bram.tideswell');
  const gate = server.app.get(Gate);
  const found = new Map<ObjectKey, AnyRecord[]>();
  for (const object of [
    ...asked,
    'note',
    'stageStay',
    'loggedChange',
    'person',
    'stage',
    'pipeline',
    'team',
  ] as const) {
    const { rows } = await gate.records(operations, ask(object), { offset: 0, limit: EVERYTHING });
    for (const [key, { set }] of fieldsOf(catalogue, object))
      if (set === 'computed') for (const record of rows) delete (record as Partial<AnyRecord>)[key];
    found.set(object, rows);
  }
  const steps = nextSteps(found.get('activity') ?? []);
  for (const deal of found.get('deal') ?? []) Object.assign(deal, { nextStepOn: steps.get(deal.id) ?? null });
  return found;
}

/** What leads to what, among these records. */
export function surroundings(records: Records, rates: readonly Rate[]): Surroundings {
  const byId = new Map<string, AnyRecord>();
  const byLink = new Map<string, AnyRecord[]>();
  for (const [object, rows] of records)
    for (const record of rows) {
      byId.set(`${object} ${record.id}`, record);
      for (const [link, value] of Object.entries(record)) {
        if (typeof value !== 'number') continue;
        const name = `${object} ${link} ${value}`;
        const linking = byLink.get(name);
        if (linking) linking.push(record);
        else byLink.set(name, [record]);
      }
    }
  return {
    find: (object, id) => byId.get(`${object} ${id}`),
    linking: (object, link, id) => byLink.get(`${object} ${link} ${id}`) ?? [],
    all: (object) => records.get(object) ?? [],
    rates,
  };
}
