import 'reflect-metadata';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { Clock } from '../platform/clock/clock';
import { readConfig, StartError } from '../platform/config/config';
import { closeDatabase, openDatabase, type Connections } from '../platform/database/data-source';
import { Database } from '../platform/database/database';
import { lockFolder } from '../platform/database/folder-lock';
import { Events } from '../platform/events/events';
import { Organisation } from '../kernel/organisation/organisation';
import { DayEnds } from '../kernel/questions/day-ends';
import { Gate } from '../kernel/questions/gate';
import { derivations } from '../features/derivations';
import { NightlyJobs } from '../kernel/jobs/nightly-jobs';
import { ORGANISATION } from './company';
import { loadDemo, loadLarge } from './load';

/** Puts the demo company into the data folder unless an organisation is there already. */
async function main(): Promise<void> {
  const config = readConfig(process.env);
  if (process.env.ZAWN_FRESH === '1') removeDatabase(config.dataFolder);
  const connections = await openDatabase(config.dataFolder);
  try {
    if ((await connections.reading.getRepository('organisation').count()) > 0) return;
    const today = new Clock(config.today).today(ORGANISATION.timeZone);
    if (process.env.ZAWN_LARGE === '1') {
      await loadLarge(connections, today, (pages) => {
        if (pages % 50 === 0) process.stdout.write(`${pages} of the large set’s pages are written …\n`);
      });
    } else await loadDemo(connections, today, config.dataFolder);
    await putRight(connections, new Clock(config.today));
  } finally {
    await closeDatabase(connections);
  }
}

/** Removes a database, and nothing else, from a data folder that nobody uses. */
function removeDatabase(folder: string): void {
  const unlock = lockFolder(folder, 'a fresh demo');
  for (const ending of ['', '-wal', '-shm']) rmSync(join(folder, `zawn.sqlite${ending}`), { force: true });
  unlock();
}

/** Derives what the server would derive at its first start, so that it need not. */
async function putRight(connections: Connections, clock: Clock): Promise<void> {
  const database = new Database(connections, 'here');
  const organisation = new Organisation(database, clock);
  const gate = new Gate(database, organisation, clock, new DayEnds(database));
  const night = new NightlyJobs(database, organisation, gate, clock, new Events(), derivations, {
    getProviders: () => [],
  });
  await night.look();
}

main().catch((error: unknown) => {
  if (!(error instanceof StartError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
