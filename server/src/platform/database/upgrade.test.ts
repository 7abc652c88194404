import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import BetterSqlite from 'better-sqlite3';
import { DataSource } from 'typeorm';
import {
  ask,
  type AnyRecord,
  type GuideAnswer,
  type Hit,
  type EntriesWritten,
  type RecordAnswer,
  type StageDays,
  type Written,
} from '@zawn/core';
import { DEMO_PASSWORD } from '../../demo/load';
import { hashPassword } from '../../kernel/sessions/passwords';
import { Caller, startServer, type TestServer } from '../../testing';
import { Database } from './database';
import { dialect } from './dialect';
import { migrations } from './migrations';

const THEN = '2026-02-03T09:00:00.000Z';
const head = { version: 1, createdAt: THEN, createdBy: 1, updatedAt: THEN };

/** What a small team had on file with the first release, table by table. */
const rows: [table: string, ...rows: Record<string, unknown>[]][] = [
  [
    'organisation',
    {
      id: 1,
      name: 'Tolmouth Gauges',
      currency: 'GBP',
      fiscalYearStart: 4,
      weekStart: 1,
      timeZone: 'Europe/London',
      country: 'GB',
      version: 1,
    },
  ],
  ['team', { id: 1, ...head, name: 'Everyone' }],
  [
    'person',
    {
      id: 1,
      ...head,
      name: 'Orla Haldane',
      email: 'orla.haldane@brackwater.example',
      role: 'operations',
      team: 1,
      active: 1,
    },
  ],
  ['pipeline', { id: 1, ...head, name: 'Sales', position: 0 }],
  [
    'stage',
    { id: 1, ...head, name: 'First talk', pipeline: 1, position: 0, probability: 10, usualDays: 14 },
    { id: 2, ...head, name: 'Offer made', pipeline: 1, position: 1, probability: 55, usualDays: 30 },
  ],
  ['rate', { id: 1, currency: 'SEK', validFrom: '2026-01-01', rate: 0.0755 }],
  ['account', { id: 1, ...head, name: 'Seagrave Harbour', city: 'Seagrave', owner: 1 }],
  [
    'contact',
    {
      id: 1,
      ...head,
      name: 'Runa Strandvik',
      account: 1,
      email: 'runa@seagrave.example',
      phone: '+441632960123',
      owner: 1,
    },
  ],
  [
    'deal',
    {
      id: 7,
      ...head,
      version: 2,
      name: 'Tide gauges',
      number: 'D-1007',
      account: 1,
      contact: 1,
      pipeline: 1,
      stage: 2,
      value: 1_250_000,
      currency: 'SEK',
      closeOn: '2026-12-18',
      owner: 1,
      outcome: 'open',
      stageSince: THEN,
      competitors: 'Pentrose Metering, an in-house solution',
    },
    {
      id: 8,
      ...head,
      name: 'Wave buoys',
      number: 'D-1008',
      pipeline: 1,
      stage: 2,
      value: 90_000,
      currency: 'GBP',
      closeOn: '2026-01-30',
      owner: 1,
      outcome: 'lost',
      closedOn: '2026-01-30',
      stageSince: THEN,
      lostTo: 'pentrose metering',
    },
  ],
  [
    'lead',
    { id: 1, ...head, name: 'Ivar Ekvall', organisation: 'Tallnäs Marina', status: 'working', owner: 1 },
  ],
  [
    'activity',
    { id: 1, ...head, name: 'Ask for the depth', kind: 'call', dueOn: '2026-11-25', owner: 1, deal: 7 },
  ],
  ['note', { id: 1, ...head, body: 'They want two, and a theodolite.', owner: 1, deal: 7 }],
  [
    'unit',
    { id: 1, at: THEN, person: 1, through: 'hand', label: 'Changed stage of deal “Tide gauges”' },
    { id: 2, at: THEN, person: 1, through: 'hand', label: 'Changed competitors of deal “Tide gauges”' },
  ],
  [
    'change',
    {
      id: 1,
      unit: 1,
      at: THEN,
      person: 1,
      through: 'hand',
      object: 'deal',
      record: 7,
      kind: 'changed',
      field: 'stage',
      old: '1',
      new: '2',
    },
    {
      id: 2,
      unit: 2,
      at: THEN,
      person: 1,
      through: 'hand',
      object: 'deal',
      record: 7,
      kind: 'changed',
      field: 'competitors',
      old: '"Delmark"',
      new: '"Pentrose Metering, an in-house solution"',
    },
  ],
  [
    'stay',
    {
      id: 1,
      deal: 7,
      stage: 1,
      enteredAt: '2026-01-20T09:00:00.000Z',
      leftAt: THEN,
      person: 1,
      through: 'hand',
      unit: null,
      leftUnit: 1,
    },
    {
      id: 2,
      deal: 7,
      stage: 2,
      enteredAt: THEN,
      leftAt: null,
      person: 1,
      through: 'hand',
      unit: 1,
      leftUnit: null,
    },
  ],
];

/** A data folder as the first release left it. */
async function firstRelease(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'zawn-test-'));
  const source = await new DataSource({
    type: 'better-sqlite3',
    database: join(folder, 'zawn.sqlite'),
    migrations: migrations.slice(0, 1),
    prepareDatabase: (driver: unknown) => dialect.prepareConnection(driver as BetterSqlite.Database),
  }).initialize();
  await source.runMigrations();
  for (const [table, ...all] of rows)
    for (const row of all) await source.createQueryBuilder().insert().into(table).values(row).execute();
  await source
    .createQueryBuilder()
    .insert()
    .into('credential')
    .values({ person: 1, hash: await hashPassword(DEMO_PASSWORD) })
    .execute();
  await source.destroy();
  return folder;
}

let server: TestServer;
let orla: Caller;

beforeAll(async () => {
  server = await startServer({ demo: false, folder: await firstRelease() });
  orla = await Caller.signIn(server, 'orla.haldane');
});
afterAll(() => server.close());

const read = async (path: string) => ((await orla.call('get', path).expect(200)).body as RecordAnswer).record;

describe('a database of the first release', () => {
  it('is opened with what its indexes hold', async () => {
    const looked = await server.app
      .get(Database)
      .reading.query<{ idx: string }[]>(`SELECT "idx" FROM "sqlite_stat1" WHERE "tbl" = 'change'`);
    expect(looked.map(({ idx }) => idx)).toContain('by_change_deal_field');
  });

  it('is brought up to date with everything that was in it', async () => {
    expect(await read('/accounts/1')).toMatchObject({ name: 'Seagrave Harbour', city: 'Seagrave' });
    expect(await read('/contacts/1')).toMatchObject({ name: 'Runa Strandvik', account: 1 });
    expect(await read('/leads/1')).toMatchObject({ name: 'Ivar Ekvall', status: 'working' });
    expect(await read('/activities/1')).toMatchObject({ name: 'Ask for the depth', deal: 7 });
    expect(await read('/notes/1')).toMatchObject({ body: 'They want two, and a theodolite.', deal: 7 });
    expect(await read('/deals/7')).toMatchObject({
      number: 'D-1007',
      value: 1_250_000,
      stage: 2,
      nextStepOn: '2026-11-25',
    });
  });

  it('has the competitors that were typed in as a list, in deals and in what was logged', async () => {
    const { rows } = await orla.records(
      ask('choiceList', { field: 'list', is: 'anyOf', value: ['competitor'] }),
    );
    expect(JSON.parse(String(rows[0].choices))).toEqual([
      ['pentrosemetering', 'Pentrose Metering'],
      ['aninhousesolution', 'an in-house solution'],
      ['delmark', 'Delmark'],
    ]);
    expect(await read('/deals/7')).toMatchObject({ competitors: ['aninhousesolution', 'pentrosemetering'] });
    expect(await read('/deals/8')).toMatchObject({ lostTo: 'pentrosemetering', competitors: null });
    await orla.call('post', '/units/2/undo').expect(200);
    expect(await read('/deals/7')).toMatchObject({ competitors: ['delmark'], stage: 2 });
  });

  it('keeps the choices that its records may hold, where a new organisation begins with others', async () => {
    const { version } = await read('/accounts/1');
    const change = (industry: string) => orla.against(Number(version), 'patch', '/accounts/1', { industry });
    await change('manufacturing').expect(422);
    await change('harbour').expect(200);
    const { rows: lists } = await orla.records(ask('choiceList'));
    expect(lists.map(({ list }) => list)).toEqual(
      expect.arrayContaining(['industry', 'lossReason', 'productFamily', 'winReason']),
    );
  });

  it('has the guides of its lead statuses as items that can be ticked', async () => {
    const { lines } = (await orla.call('get', '/leads/1/guide').expect(200)).body as GuideAnswer;
    expect(lines.map(({ when, words }) => `${when}: ${words}`)).toEqual([
      'before: Read what came in',
      'before: Look who else knows them',
      'before: Call within the day',
      'now: What do they want to measure, and where',
      'now: Who decides',
      'now: What is there today',
    ]);
  });

  it('is kept beside it as it was, once', () => {
    const copies = readdirSync(server.folder).filter((name) => name.includes('.before-upgrade-'));
    expect(copies).toHaveLength(1);
    const [copy] = copies;
    const old = new BetterSqlite(join(server.folder, copy), { readonly: true });
    expect(old.prepare('SELECT COUNT(*) FROM migrations').pluck().get()).toBe(1);
    expect(old.prepare('SELECT name FROM lead').pluck().all()).toEqual(['Ivar Ekvall']);
    old.close();
  });

  it('has settings and rates that are records from now on', async () => {
    const organisation = await read('/organisation/1');
    expect(organisation).toMatchObject({ currency: 'GBP', createdAt: THEN });
    await orla
      .against(Number(organisation.version), 'patch', '/organisation/1', { name: 'Upgraded' })
      .expect(200);
    const entry = { currency: 'SEK', validFrom: '2026-01-01', rate: 0.08 };
    const { body } = await orla.call('post', '/rates/entries', { rates: [entry] }).expect(200);
    const { unit, value } = body as Written<EntriesWritten>;
    expect(value).toEqual({ created: 0, changed: 1, same: 0 });
    await orla.call('post', `/units/${unit}/undo`).expect(200);
  });

  it('is reported in the rates it had, and found by search', async () => {
    const [{ figures }] = await orla.figures({
      version: 1,
      object: 'deal',
      measures: [{ as: 'sum', of: 'value' }],
    });
    expect(figures).toEqual([184_375]);
    const hits = async (text: string) =>
      ((await orla.call('get', `/search?q=${encodeURIComponent(text)}`)).body as { hits: Hit[] }).hits;
    expect((await hits('tallnas')).map(({ name }) => name)).toEqual(['Ivar Ekvall']);
    expect((await hits('theodolite')).map(({ name }) => name)).toEqual(['Tide gauges']);
  });

  it('goes on from where it was: stage history, numbers, undo', async () => {
    const { days } = (await orla.call('get', '/deals/7/stages').expect(200)).body as StageDays;
    expect(days).toEqual([
      { stage: 1, days: 14, periods: 1 },
      { stage: 2, days: 289, periods: 1 },
    ]);
    const deal = {
      name: 'Next',
      value: 1,
      currency: 'GBP',
      closeOn: '2026-12-20',
      owner: 1,
      pipeline: 1,
      stage: 1,
    };
    const made = (await orla.call('post', '/deals', deal).expect(201)).body as Written<AnyRecord>;
    expect(made.value.number).toBe('D-1009');
    await orla.call('post', '/units/1/undo').expect(200);
    expect(await read('/deals/7')).toMatchObject({ stage: 1, version: 4 });
    await orla.against(4, 'post', '/deals/7/win', {}).expect(200);
    expect(await read('/deals/7')).toMatchObject({ outcome: 'won', closedOn: '2026-11-19' });
  });
});
