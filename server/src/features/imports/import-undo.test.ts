import fc from 'fast-check';
import {
  ask,
  type ImportLook,
  type ImportSetup,
  type ImportSummary,
  type Undone,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';
import { Imports } from './imports';

let server: TestServer;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const TABLES = ['lead', 'contact', 'account', 'deal'];

/** What is in the database of records that are not in the bin, and in its index, but for how often it was written. */
async function content(): Promise<Record<string, unknown>> {
  const { reading } = server.app.get(Database);
  const all: Record<string, unknown> = {};
  for (const table of TABLES) {
    const rows = await reading.query<Record<string, unknown>[]>(
      `SELECT * FROM "${table}" WHERE "deletedAt" IS NULL ORDER BY "id"`,
    );
    all[table] = rows.map(({ version: _, updatedAt: __, ...row }) => row);
  }
  all.lists = await reading.query('SELECT * FROM listMember ORDER BY list, record');
  all.search = await reading.query('SELECT rowid FROM search ORDER BY rowid');
  return all;
}

interface Person {
  name: string;
  email: string;
  account: string;
}

/** Rows of which some name people and accounts that are on file, some new ones, some each other. */
const rowsAbout = (known: readonly Person[]) => {
  const fresh = fc.nat(6).map((at) => ({
    name: `Fresh Person ${at}`,
    email: `fresh${at}@undone.example`,
    account: `Fresh Firm ${at % 3}`,
  }));
  const row = fc.record({
    person: fc.oneof(fresh, fc.constantFrom(...known)),
    town: fc.constantFrom('', 'Wexhaven', 'Tollard'),
    role: fc.constantFrom('', 'Pilot', 'Harbour master'),
    tags: fc.constantFrom('', 'north', 'north, fair'),
    phone: fc.constantFrom('', '01632 960777', 'none'),
  });
  return fc.array(row, { minLength: 1, maxLength: 12 });
};

const options = fc.record({
  onMatch: fc.constantFrom('update', 'skip', 'create'),
  blanks: fc.constantFrom('keep', 'clear'),
  several: fc.constantFrom('add', 'replace'),
  tags: fc.constantFrom([], ['undone']),
}) as fc.Arbitrary<Partial<ImportSetup>>;

async function bring(text: string, change: Partial<ImportSetup>): Promise<ImportSummary | undefined> {
  const handedIn = await operations
    .call('post', '/imports/files?name=x.csv&as=contact')
    .set('Content-Type', 'application/octet-stream')
    .send(text)
    .expect(201);
  const { file, fileName, setup } = handedIn.body as ImportLook;
  const { status, body } = await operations.call('post', '/imports', {
    file,
    fileName,
    setup: { ...setup, ...change },
  });
  // A file that creates and changes nothing is not brought in at all.
  if (status === 409) return undefined;
  const { id } = body as ImportSummary;
  await server.app.get(Imports).settled(id);
  return (await operations.call('get', `/imports/${id}`).expect(200)).body as ImportSummary;
}

describe('any import, undone', () => {
  it('leaves the database as it was, whatever it created, changed or cleared', async () => {
    const { rows, names } = await operations.records(
      ask('contact', { field: 'email', is: 'isNotEmpty' }, { field: 'account', is: 'isNotEmpty' }),
      8,
    );
    const known = rows.map(({ name, email, account }) => ({
      name: String(name),
      email: String(email),
      account: names.account?.[Number(account)] ?? '',
    }));
    const before = await content();
    let written = 0;
    await fc.assert(
      fc.asyncProperty(rowsAbout(known), options, async (people, change) => {
        const lines = people.map(({ person, town, role, tags, phone }) =>
          [person.name, person.email, person.account, town, role, `"${tags}"`, phone].join(','),
        );
        const done = await bring(['Name,Mail,Company,Town,Role,Tags,Phone', ...lines].join('\n'), change);
        if (!done?.unit) return;
        expect(done.state).toBe('done');
        written += 1;
        const { body } = await operations.call('post', `/units/${done.unit}/undo`).expect(200);
        expect((body as Written<Undone>).value.kept).toEqual([]);
        const after = await content();
        // Long to compare, so only what differs is.
        for (const [name, rows] of Object.entries(before))
          if (JSON.stringify(after[name]) !== JSON.stringify(rows)) expect(after[name]).toEqual(rows);
        expect(Object.keys(after)).toEqual(Object.keys(before));
      }),
      { numRuns: 20 },
    );
    // Most of them did write something, or nothing was shown.
    expect(written).toBeGreaterThan(8);
  });
});
