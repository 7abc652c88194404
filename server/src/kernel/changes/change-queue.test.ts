import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Injectable, Module } from '@nestjs/common';
import { type AnyRecord, type Written } from '@zawn/core';
import { type ChangeRow } from '../../platform/database/rows';
import { Caller, startServer, type TestServer } from '../../testing';
import { ChangeQueue, ReactsToChanges, type ChangeConsumer } from './change-queue';

/** What the consumer was given, across stops: batches of “deal 12 closeOn”. */
const given: string[][] = [];
let isFailing = false;
/** Waits here before it has reacted. */
let hold: Promise<void> = Promise.resolve();

@ReactsToChanges()
@Injectable()
class Bookkeeper implements ChangeConsumer {
  readonly consumer = 'bookkeeper';
  readonly objects = ['deal'] as const;

  async react(changes: readonly ChangeRow[]): Promise<void> {
    given.push(changes.map(({ object, record, kind, field }) => `${object} ${record} ${field ?? kind}`));
    await hold;
    if (isFailing) throw new Error('The ledger is closed');
  }
}

@Module({ providers: [Bookkeeper] })
class BookkeeperModule {}

process.env.LOG_LEVEL = 'silent';
const folder = mkdtempSync(join(tmpdir(), 'zawn-test-'));
let server: TestServer;
let rep: Caller;

const open = async (demo: boolean) => {
  server = await startServer({ demo, folder, features: { modules: [BookkeeperModule] } });
  rep = await Caller.signIn(server, 'tamsin.rudd');
};
const queue = () => server.app.get(ChangeQueue);
const caughtUp = async () => {
  await queue().done();
  return given.splice(0).flat();
};

let deal: AnyRecord;
const change = async (values: object) => {
  const answer = await rep.against(deal.version, 'patch', `/deals/${deal.id}`, values).expect(200);
  deal = (answer.body as Written<AnyRecord>).value;
};

beforeAll(async () => {
  await open(true);
  const { rows } = await rep.records({
    version: 1,
    object: 'deal',
    where: { field: 'outcome', is: 'anyOf', value: ['open'] },
  });
  deal = rows[0];
});
afterAll(async () => {
  await server.app.close();
  rmSync(folder, { recursive: true, force: true });
});
beforeEach(() => queue().done());

describe('a consumer of the change log', () => {
  it('begins behind what was written before it came', async () => {
    expect(await caughtUp()).toEqual([]);
  });

  it('is given each change it asks for once, in order, and no other', async () => {
    await change({ externalId: 'Rival 1', description: 'Moved' });
    await rep.call('post', '/leads', { name: 'Unrelated', status: 'untouched', owner: rep.id }).expect(201);
    await change({ externalId: 'Rival 2' });
    const own = `deal ${deal.id}`;
    expect(await caughtUp()).toEqual([`${own} externalId`, `${own} description`, `${own} externalId`]);
    expect(await caughtUp()).toEqual([]);
  });

  it('is given the same again when it failed', async () => {
    isFailing = true;
    await change({ description: 'Once more' });
    await queue().done();
    expect(given[0]).toEqual([`deal ${deal.id} description`]);
    isFailing = false;
    given.splice(0);
    // What is written next wakes it as well as the clock does.
    await change({ externalId: 'Rival 3' });
    expect(await caughtUp()).toEqual([`deal ${deal.id} description`, `deal ${deal.id} externalId`]);
  });

  it('goes on after a stop with what was written while nobody was there to react', async () => {
    isFailing = true;
    await change({ description: 'Just before the stop' });
    await queue().done();
    await server.app.close();
    isFailing = false;
    given.splice(0);
    await open(false);
    expect(await caughtUp()).toEqual([`deal ${deal.id} description`]);
    await server.app.close();
    await open(false);
    expect(await caughtUp()).toEqual([]);
  });

  it('is given what comes while it reacts afterwards, and lets nobody else wait', async () => {
    let release: () => void = () => undefined;
    hold = new Promise((resolve) => (release = resolve));
    await change({ description: 'Slowly' });
    await change({ externalId: 'Rival 4' });
    await change({ externalId: 'Rival 5' });
    release();
    hold = Promise.resolve();
    const own = `deal ${deal.id}`;
    expect(await caughtUp()).toEqual([`${own} description`, `${own} externalId`, `${own} externalId`]);
  });
});
