import { readdirSync } from 'node:fs';
import { request as send } from 'node:http';
import { type AddressInfo } from 'node:net';
import { join } from 'node:path';
import request from 'supertest';
import {
  ask,
  type ImportExamples,
  type ImportLook,
  type ImportPreview,
  type ImportSetup,
  type ImportSummary,
  type ObjectKey,
  type ProblemBody,
  type TimelinePage,
  type TargetKey,
  type UnitsPage,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';
import { Imports } from './imports';

let server: TestServer;
let rep: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const handIn = (caller: Caller, content: string | Buffer, name = 'people.csv', as?: TargetKey) =>
  caller
    .call('post', `/imports/files?name=${encodeURIComponent(name)}${as ? `&as=${as}` : ''}`)
    .set('Content-Type', 'application/octet-stream')
    .send(content);
const look = async (caller: Caller, content: string, as?: TargetKey) => {
  const { body } = await handIn(caller, content, 'people.csv', as).expect(201);
  return body as ImportLook;
};
const preview = async (caller: Caller, { file }: ImportLook, setup: ImportSetup) => {
  const { body } = await caller.call('post', '/imports/preview', { file, setup }).expect(200);
  return body as ImportPreview;
};
/** Begins an import and waits for its end. */
async function bring(caller: Caller, content: string, change: Partial<ImportSetup> = {}, as?: TargetKey) {
  const { file, fileName, setup } = await look(caller, content, as);
  const { body } = await caller
    .call('post', '/imports', { file, fileName, setup: { ...setup, ...change } })
    .expect(201);
  const { id } = body as ImportSummary;
  await server.app.get(Imports).settled(id);
  return (await caller.call('get', `/imports/${id}`).expect(200)).body as ImportSummary;
}
const undo = (caller: Caller, { unit }: ImportSummary) =>
  caller.call('post', `/units/${unit}/undo`).expect(200);
const named = async (caller: Caller, object: ObjectKey, name: string) =>
  (await caller.records(ask(object, { field: 'name', is: 'is', value: name }))).rows;

/** Everything of an object that a person sees, but for when and how often it was written. */
async function content(caller: Caller, objects: readonly ObjectKey[]) {
  const all: Record<string, unknown> = {};
  for (const object of objects) {
    const { rows, total } = await caller.records({ ...ask(object), sort: [{ field: 'createdAt' }] });
    all[object] = [total, rows.map(({ version: _, updatedAt: __, ...record }) => record)];
  }
  return all;
}

const messy = [
  'Name;Company;E-Mail;Telephone;Source;Budget;Shoe size',
  'Petra Lundeby;Quernhaven Marina;petra@quernhaven.example;01632 960411;Trade fair;24.500,00;39',
  'Jarl Tarnbrook;Rossfleet Pilots;JARL@rossfleet.example;01632 960412;Website;8.000;44',
  'Moira Kessenich;Fenholt Water;moira at fenholt;;Website;;',
  'Ivar Ekvall;Tallnas Marina;ivar@tallnas.example;;Pigeon post;12000;43',
  'Jarl T.;Rossfleet Pilots;jarl@rossfleet.example;;;;',
].join('\n');

describe('a file handed in', () => {
  it('is read, with every guess, how sure it is, and why', async () => {
    const { table, guess, setup, target } = await look(rep, messy);
    expect(target).toBe('lead');
    expect(table).toMatchObject({ rowCount: 5, delimiter: { value: ';' }, encoding: { value: 'utf-8' } });
    expect(setup.columns).toEqual(['name', 'organisation', 'email', 'phone', 'source', 'budget', null]);
    expect(guess.decimal).toMatchObject({ value: ',', why: expect.stringContaining('24.500,00') as string });
    expect(guess.columns.at(-1)).toMatchObject({ value: null, why: 'no field is called so' });
  });

  it('is looked at again in another way', async () => {
    const { file, fileName } = await look(rep, messy);
    const { body } = await rep
      .call('post', '/imports/look', { file, fileName, reading: { delimiter: ',' }, target: 'account' })
      .expect(200);
    expect(body).toMatchObject({ target: 'account', table: { headings: [expect.stringContaining(';')] } });
  });

  it.each([
    ['', 'The file is empty'],
    ['Name,Mail\n', 'no rows below'],
    ['PK\u0003\u0004 not a workbook', 'damaged'],
    ['a\0b\0c', 'neither text nor a workbook'],
    [`Name\n"${'x'.repeat(30_000)}`, 'Is a quote missing?'],
    [`${Array.from({ length: 2000 }, (_, at) => `c${at}`).join(',')}\n1`, '2000 columns'],
  ])('that cannot be read is refused with the reason: %#', async (text, message) => {
    const { body } = await handIn(rep, text).expect(422);
    expect((body as ProblemBody).detail).toContain(message);
  });

  it('of more than 50 MB is refused before it is kept', async () => {
    const { status, body } = await handIn(rep, Buffer.alloc(51 * 1024 * 1024, 97)).catch(() => ({
      status: 413,
      body: { detail: 'larger than 50 MB' },
    }));
    expect([status, (body as ProblemBody).detail]).toEqual([
      413,
      expect.stringContaining('larger than 50 MB'),
    ]);
  });

  it('of a gigabyte in one line is broken off, and nothing of it is kept', async () => {
    const { port } = (server.app.getHttpServer() as unknown as { address: () => AddressInfo }).address();
    const folder = join(server.folder, 'imports');
    const before = readdirSync(folder);
    const chunk = Buffer.alloc(1_000_000, 97);
    let sent = 0;
    await new Promise<void>((resolve) => {
      const sending = send({
        port,
        host: '127.0.0.1',
        method: 'POST',
        path: '/api/v1/imports/files?name=line.csv',
        headers: {
          Cookie: rep.cookie,
          'X-CSRF-Token': rep.session.csrf,
          'Content-Type': 'application/octet-stream',
          'Transfer-Encoding': 'chunked',
        },
      });
      const more = () => {
        if (sent >= 1_000_000_000) return void sending.end();
        sent += chunk.length;
        if (sending.write(chunk)) setImmediate(more);
        else sending.once('drain', more);
      };
      sending.on('response', () => resolve()).on('error', () => resolve());
      more();
    });
    expect(sent).toBeLessThan(200_000_000);
    expect(readdirSync(folder)).toEqual(before);
  });

  it('is nobody else’s', async () => {
    const own = await look(rep, messy);
    const { file, setup } = own;
    await operations.call('post', '/imports/preview', { file, setup }).expect(404);
    for (const name of ['../zawn.sqlite', `${operations.id}-../../x`, ''])
      expect(
        (await operations.call('post', '/imports/preview', { file: name, setup })).status,
      ).toBeGreaterThanOrEqual(404);
    expect(await preview(rep, own, setup)).toMatchObject({ counts: { create: 3 } });
  });
});

describe('a preview', () => {
  it('counts what will become of every row and names the cells in trouble; nothing is written', async () => {
    const before = await content(rep, ['lead']);
    const own = await look(rep, messy);
    const { counts, refused, notes, unknown } = await preview(rep, own, own.setup);
    expect(counts).toMatchObject({ create: 3, update: 0, same: 0, skip: 1, refuse: 1, noted: 1 });
    expect(refused).toEqual([
      expect.objectContaining({ row: 4, column: 2, reason: 'Email is not an email address' }),
    ]);
    expect(notes).toEqual([expect.objectContaining({ row: 5, column: 4, unknown: 'Pigeon post' })]);
    const strict = { ...own.setup, bad: { source: 'refuse' as const } };
    expect((await preview(rep, own, strict)).counts).toMatchObject({ create: 2, refuse: 2, noted: 0 });
    expect(unknown).toEqual([{ column: 4, text: 'Pigeon post', rows: 1 }]);
    const meant = { ...own.setup, meanings: { source: { 'pigeon post': 'referral' } } };
    expect((await preview(rep, own, meant)).counts).toMatchObject({
      create: 3,
      refuse: 1,
      noted: 0,
    });
    expect(await content(rep, ['lead'])).toEqual(before);
  });

  it('shows examples of every outcome, before and after', async () => {
    const { rows } = await rep.records(ask('contact', { field: 'email', is: 'isNotEmpty' }), 1);
    const text = `Name,Mail,Town,Account\n${String(rows[0].name)},${String(rows[0].email)},Farthest Skerry,\nNew Person,new@skerry.example,Skerry,Skerry Light Keepers\nNobody,not an email,,\n`;
    const own = await look(rep, text, 'contact');
    const show = async (outcome: string, object = 'contact') => {
      const body = { file: own.file, setup: own.setup, bucket: { object, outcome }, from: 0 };
      return (await rep.call('post', '/imports/examples', body).expect(200)).body as ImportExamples;
    };
    expect((await show('update')).examples).toEqual([
      expect.objectContaining({
        id: rows[0].id,
        why: 'same email',
        fields: [{ path: 'city', before: rows[0].city, after: 'Farthest Skerry' }],
      }),
    ]);
    expect((await show('create')).examples[0]).toMatchObject({ id: null, name: 'New Person' });
    expect((await show('refuse')).examples[0].why).toContain('not an email address');
    expect((await show('same')).total).toBe(0);
    expect((await show('create', 'account')).examples).toEqual([
      expect.objectContaining({ row: 3, object: 'account', name: 'Skerry Light Keepers' }),
    ]);
  });

  it.each([
    [{ columns: ['name'] }, 400],
    [{ columns: ['name', 'email', 'email', null, null, null, null] }, 400],
    [{ currency: 'XX' }, 422],
    [{ bad: { email: 'guess' } }, 422],
    [{ match: ['shoe'] }, 422],
    [{ onMatch: 'explode' }, 422],
    [{ extra: 1 }, 422],
    [{ owner: { by: 'person' } }, 422],
  ])('of a setup that makes no sense is refused: %j', async (change, status) => {
    const { file, setup } = await look(rep, messy);
    await rep.call('post', '/imports/preview', { file, setup: { ...setup, ...change } }).expect(status);
  });
});

describe('an import', () => {
  it('writes every good row in one unit, can be undone as a whole, and then everything is as it was', async () => {
    const before = await content(operations, ['lead', 'list']);
    const done = await bring(operations, messy, { tags: ['coast fair'], list: { name: 'From the fair' } });
    expect(done).toMatchObject({ state: 'done', counts: { create: 3, skip: 1, refuse: 1, noted: 1 } });
    const [petra] = await named(operations, 'lead', 'Petra Lundeby');
    expect(petra).toMatchObject({
      organisation: 'Quernhaven Marina',
      phone: '+441632960411',
      budget: 2_450_000,
      source: 'fair',
      tags: ['coast fair'],
      owner: operations.id,
      createdBy: operations.id,
    });
    const { rows: units } = (await operations.call('get', '/changes').expect(200)).body as UnitsPage;
    expect(units[0]).toMatchObject({
      id: done.unit,
      through: 'import',
      label: 'Imported 3 leads from people.csv',
      records: 4,
    });
    const { body } = await operations.call('get', '/search?q=lundeby').expect(200);
    expect(JSON.stringify(body)).toContain('Petra Lundeby');
    await undo(operations, done);
    expect(await content(operations, ['lead', 'list'])).toEqual(before);
    const [latest] = (
      (await operations.call('get', '/imports').expect(200)).body as { imports: ImportSummary[] }
    ).imports;
    expect(latest).toMatchObject({ id: done.id, isUndone: true });
  });

  it('remembers what was decided, for files of the same headings, one’s own word first', async () => {
    const file = (name: string) => `Name,Town,Shoe size\n${name},Shape,39\n`;
    const columnsOf = async (caller: Caller, text: string) =>
      (await look(caller, text, 'lead')).setup.columns;
    // Nobody said anything: nothing is remembered, so a field that comes later is found.
    await bring(rep, file('Shape One'));
    expect(await columnsOf(rep, file('Shape Two'))).toEqual(['name', 'city', null]);
    await bring(rep, file('Shape Two'), { columns: ['name', null, 'interest'] });
    expect(await columnsOf(rep, file('Shape Three'))).toEqual(['name', null, 'interest']);
    expect(await columnsOf(operations, file('Shape Three'))).toEqual(['name', null, 'interest']);
    // Another file with such a column is not bound by it.
    expect(await columnsOf(rep, 'Name,Town\nShape Four,Here\n')).toEqual(['name', 'city']);
    await bring(operations, file('Shape Five'), { columns: ['name', 'city', 'description'] });
    expect(await columnsOf(operations, file('Shape Six'))).toEqual(['name', 'city', 'description']);
    expect(await columnsOf(rep, file('Shape Six'))).toEqual(['name', null, 'interest']);
  });

  it('never writes over somebody of the same name with another email, and keeps the money each amount is in', async () => {
    await bring(rep, 'Name,Mail,Phone\nIngrid Halvorsen,ingrid@first.example,01632 960777\n');
    const before = await content(rep, ['lead']);
    const file = [
      'Unsere Leads der Messe',
      '',
      'Vorname;Nachname;E-Mail-Adresse;Budget;Land',
      'Ingrid;Halvorsen;ingrid@second.example;1.200,50 €;Norge',
      'Jürgen;Weiß;j.weiss@third.example;SEK 5.000;Deutschland',
      'Ada;Quay;;$ 12;Deutschland',
      ';;;6.212,50;',
      'Summe;;;6.212,50;',
    ].join('\n');
    const own = await look(rep, file);
    expect(own.table.notes).toHaveLength(2);
    const seen = await preview(rep, own, own.setup);
    const done = await bring(rep, file);
    expect(done.counts).toEqual(seen.counts);
    expect(done.counts).toMatchObject({ create: 2, maybe: 1, update: 0, refuse: 0, noted: 1 });
    const both = await named(rep, 'lead', 'Ingrid Halvorsen');
    expect(both.map(({ email }) => email).sort()).toEqual(['ingrid@first.example', 'ingrid@second.example']);
    const [second] = await named(rep, 'lead', 'Jürgen Weiß');
    expect(second).toMatchObject({ budget: 500_000, currency: 'SEK', country: 'DE' });
    expect(both.find(({ email }) => email === 'ingrid@second.example')).toMatchObject({
      budget: 120_050,
      currency: 'EUR',
    });
    expect((await named(rep, 'lead', 'Ada Quay'))[0].budget).toBeNull();
    const noted = await rep.call('get', `/imports/${done.id}/refused`).expect(200);
    expect(noted.text).toContain('may be in USD');
    const again = await look(rep, file);
    expect((await preview(rep, again, again.setup)).counts).toMatchObject({ create: 0, maybe: 0, same: 3 });
    await undo(rep, done);
    expect(await content(rep, ['lead'])).toEqual(before);
  });

  it('of the same file again changes nothing, and says when it was there before', async () => {
    const text = 'Name,Mail,Town\nSelma Strand,selma@again.example,Again\n';
    const first = await bring(rep, text);
    const own = await look(rep, text);
    expect(own.before).toEqual({ id: first.id, at: first.at });
    expect((await preview(rep, own, own.setup)).counts).toMatchObject({ create: 0, update: 0, same: 1 });
    const { body } = await rep
      .call('post', '/imports', { file: own.file, fileName: 'x.csv', setup: own.setup })
      .expect(409);
    expect((body as ProblemBody).detail).toContain('No row of this file creates or changes anything');
  });

  it('updates what is there, keeps what blanks say nothing about, and undo leaves later edits alone', async () => {
    await bring(
      rep,
      'Name,Mail,Town,Role\nAda One,ada@upd.example,Here,Pilot\nBea Two,bea@upd.example,Here,Pilot\n',
    );
    const change = await bring(rep, 'Mail,Town,Role\nada@upd.example,There,\nbea@upd.example,There,\n');
    expect(change).toMatchObject({ state: 'done', counts: { update: 2 } });
    const [ada] = await named(rep, 'lead', 'Ada One');
    expect(ada).toMatchObject({ city: 'There', role: 'Pilot' });
    await rep.against(ada.version, 'patch', `/leads/${ada.id}`, { city: 'Elsewhere' }).expect(200);
    const { body } = await undo(rep, change);
    expect(body).toMatchObject({ value: { records: 1, kept: [{ id: ada.id, name: 'Ada One' }] } });
    expect((await named(rep, 'lead', 'Bea Two'))[0].city).toBe('Here');
    expect((await named(rep, 'lead', 'Ada One'))[0].city).toBe('Elsewhere');
  });

  it('of people with their companies links each to one account, and all goes again by undo', async () => {
    const before = await content(rep, ['contact', 'account']);
    const done = await bring(
      rep,
      'Name,Mail,Company,Company website\nCara Quay,cara@quayside.example,Quayside Pilots,quayside.example\nDan Quay,dan@quayside.example,Quayside Pilots,\n',
      {},
      'contact',
    );
    expect(done).toMatchObject({
      target: 'contact',
      counts: { create: 2, others: { account: { create: 1 } } },
    });
    const [cara] = await named(rep, 'contact', 'Cara Quay');
    const [dan] = await named(rep, 'contact', 'Dan Quay');
    const accounts = await named(rep, 'account', 'Quayside Pilots');
    expect(accounts).toHaveLength(1);
    expect([cara.account, dan.account]).toEqual([accounts[0].id, accounts[0].id]);
    await undo(rep, done);
    expect(await content(rep, ['contact', 'account'])).toEqual(before);
  });

  it('says of a record which of its cells were left empty, until it is undone', async () => {
    const file = 'Name,Company,Budget\nNoted Person,Noted Harbour,lots\nClean Person,Noted Harbour,12\n';
    const done = await bring(rep, file);
    const storyOf = async (name: string) => {
      const [{ id }] = await named(rep, 'lead', name);
      const { body } = await rep.call('get', `/leads/${id}/timeline?kinds=importNote`).expect(200);
      return (body as TimelinePage).rows;
    };
    expect(await storyOf('Noted Person')).toEqual([
      expect.objectContaining({
        id: done.id,
        fileName: 'people.csv',
        person: rep.session.me.id,
        notes: ['Budget: “lots” is not a number; left empty'],
      }),
    ]);
    expect(await storyOf('Clean Person')).toEqual([]);

    // What is updated keeps its notes apart, and loses them with the update.
    const again = await bring(rep, 'Name,Company,Role,Country\nClean Person,Noted Harbour,Pilot,Atlantis\n');
    expect((await storyOf('Clean Person')).map((entry) => entry.id)).toEqual([again.id]);
    await undo(rep, again);
    expect(await storyOf('Clean Person')).toEqual([]);
  });

  it('that changes nothing but the accounts of its people is one too', async () => {
    const file = (town: string) =>
      `Name,Mail,Company,Account’s town\nElla Only,ella@only.example,Only Accounts,${town}\n`;
    await bring(rep, file('Here'), {}, 'contact');
    const done = await bring(rep, file('There'), {}, 'contact');
    expect(done.counts).toMatchObject({
      create: 0,
      update: 0,
      same: 1,
      others: { account: { update: 1 } },
    });
    expect((await named(rep, 'account', 'Only Accounts'))[0].city).toBe('There');
  });

  it('of deals numbers them and keeps their stage history', async () => {
    const { state } = await bring(
      rep,
      'Name,Value,Currency,Close date,Account,Contact\nQuay gauges,"12,500",EUR,31.12.2026,Deal Harbour,Deal Person\nMast,900,GBP,2027-01-31,Deal Harbour,\n',
      {},
      'deal',
    );
    expect(state).toBe('done');
    const [gauges] = await named(rep, 'deal', 'Quay gauges');
    const [mast] = await named(rep, 'deal', 'Mast');
    expect(gauges).toMatchObject({ value: 1_250_000, currency: 'EUR', outcome: 'open' });
    expect(gauges.number).not.toBe(mast.number);
    expect(gauges.account).toBe(mast.account);
    const [person] = await named(rep, 'contact', 'Deal Person');
    expect([gauges.contact, person.account]).toEqual([person.id, gauges.account]);
    await rep.call('get', `/deals/${gauges.id}/stages`).expect(200);
  });

  it('of activities hangs them on records that are on file', async () => {
    await bring(rep, 'Name,Mail\nHook Record,hook@there.example\n', {}, 'contact');
    const done = await bring(
      rep,
      'Subject,Done,Type,Contact mail\nFirst talk,2026-10-01 09:30,Call,hook@there.example\nNowhere,2026-10-01,Call,nobody@there.example\n',
      {},
      'activity',
    );
    expect(done.counts).toMatchObject({ create: 1, refuse: 1 });
    const [talk] = await named(rep, 'activity', 'First talk');
    expect(talk).toMatchObject({ kind: 'call', doneAt: '2026-10-01T08:30:00.000Z', doneBy: rep.id });
    expect(talk.contact).toBe((await named(rep, 'contact', 'Hook Record'))[0].id);
  });

  it('gives its refused rows and its file back, safe for spreadsheets', async () => {
    const text = 'Name;Mail\n=1+1;not an email\nGood One;good@one.example\n';
    const { id } = await bring(rep, text);
    const refused = await rep.call('get', `/imports/${id}/refused`).expect(200);
    expect(refused.text.split('\r\n')[1]).toBe(`"'=1+1";not an email;Email is not an email address`);
    expect(refused.headers['content-disposition']).toContain('refused people.csv');
    const original = await rep.call('get', `/imports/${id}/file`).buffer(true).expect(200);
    expect(String(original.body)).toBe(text);
    await operations.call('get', `/imports/${id}/file`).expect(404);
    await operations.call('get', `/imports/${id}`).expect(404);
    await operations.call('post', `/imports/${id}/cancel`).expect(404);
  });

  it('keeps scripts in cells as the text they are', async () => {
    await bring(rep, 'Name,Notes\n<script>alert(1)</script>,=HYPERLINK("x")\n');
    const [lead] = await named(rep, 'lead', '<script>alert(1)</script>');
    expect(lead.description).toBe('=HYPERLINK("x")');
  });

  it('remembers what headings were pointed at, in whatever order they stand in the next file', async () => {
    const text = 'Name,Mail,Whatever this is\nGus Gale,gus@gale.example,Tide gauges\n';
    const first = await look(rep, text);
    expect(first.setup.columns[2]).toBeNull();
    await bring(rep, text, { columns: ['name', 'email', 'interest'] });
    const next = await look(rep, 'Whatever this is,Mail,Name\nMasts,,Someone\n');
    expect(next.setup.columns).toEqual(['interest', 'email', 'name']);
    expect(next.guess.columns[0].why).toBe('decided so for files like this');
  });

  it('remembers what texts stood for, as long as they still can', async () => {
    const file = (name: string) => `Name,Source\n${name},Word of mouth\n`;
    const first = await look(operations, file('First heard'), 'lead');
    expect(first.setup.meanings).toEqual({});
    const meanings = { source: { 'word of mouth': 'referral' } };
    await bring(operations, file('First heard'), { meanings }, 'lead');
    const again = await look(rep, file('Second heard'), 'lead');
    expect(again.setup.meanings).toEqual(meanings);
    expect((await preview(rep, again, again.setup)).counts).toMatchObject({ create: 1, refuse: 0 });
    expect((await look(rep, 'Name,Source\nThird,Website\n', 'lead')).setup.meanings).toEqual({});
  });

  it('fills in what new records begin with where no column says so, and reads numbers that are not whole', async () => {
    const field = { object: 'lead', required: false, position: 90, retired: false };
    const make = (more: object) =>
      operations.call('post', '/custom-fields', { ...field, ...more }).expect(201);
    await make({ key: 'x_heard', label: 'Heard', type: 'text', preset: '"nothing"' });
    await make({ key: 'x_depthOfWater', label: 'Depth of water', type: 'number' });
    const done = await bring(operations, 'Name,Depth of water\nDeep Quay,12.75\n', {}, 'lead');
    expect(done.counts).toMatchObject({ create: 1, refuse: 0 });
    const [lead] = await named(operations, 'lead', 'Deep Quay');
    expect(lead).toMatchObject({ x_heard: 'nothing', x_depthOfWater: 12.75 });
    await bring(operations, 'Name,Heard,Depth of water\nDeep Pier,all,3\n', {}, 'lead');
    expect((await named(operations, 'lead', 'Deep Pier'))[0]).toMatchObject({ x_heard: 'all' });
    const deep = ask('lead', { field: 'x_depthOfWater', is: 'above', value: 12.5 });
    expect((await operations.records(deep)).rows.map(({ name }) => name)).toEqual(['Deep Quay']);
  });

  it('of JSON in one array, typed as it is', async () => {
    const people = [
      { name: 'Array One', email: 'one@array.example', tags: ['fair', 'coast'] },
      { name: 'Array Two', budget: 1250.5 },
    ];
    const done = await bring(operations, JSON.stringify(people), {}, 'lead');
    expect(done.counts).toMatchObject({ create: 2 });
    expect((await named(operations, 'lead', 'Array One'))[0].tags).toEqual(['coast', 'fair']);
    expect((await named(operations, 'lead', 'Array Two'))[0].budget).toBe(125_050);
  });

  it('by a rep stays within the rep’s reach', async () => {
    const own = await look(rep, 'Name,Owner\nTaken Over,Ewan Castellin\n');
    const { counts, refused } = await preview(rep, own, own.setup);
    expect(counts).toMatchObject({ create: 0, refuse: 1 });
    expect(refused[0].reason).toBe('You cannot give records to this owner');
    const [foreign] = (
      await operations.records(
        ask('lead', { field: 'owner', is: 'noneOf', value: [rep.id] }, { field: 'email', is: 'isNotEmpty' }),
        1,
      )
    ).rows;
    const hidden = await look(rep, `Name,Mail\nX,${String(foreign.email)}\n`);
    // What may not be seen is not recognised either: that would tell that it is there.
    expect((await preview(rep, hidden, hidden.setup)).counts).toMatchObject({
      create: 1,
      same: 0,
      update: 0,
    });
  });

  it('that is stopped on its way has written nothing', async () => {
    const before = await content(operations, ['lead']);
    const rows = Array.from({ length: 3000 }, (_, at) => `Stopped ${at},stopped${at}@x.example`).join('\n');
    const { file, fileName, setup } = await look(operations, `Name,Mail\n${rows}\n`);
    const { body } = await operations.call('post', '/imports', { file, fileName, setup }).expect(201);
    const { id } = body as ImportSummary;
    const stopped = await operations.call('post', `/imports/${id}/cancel`).expect(200);
    expect(stopped.body).toMatchObject({ state: 'cancelled', unit: null });
    expect((stopped.body as ImportSummary).failure).toContain('Nothing of it was written');
    expect(await content(operations, ['lead'])).toEqual(before);
  });

  it('is begun once for a file', async () => {
    const { file, fileName, setup } = await look(rep, 'Name\nOnce Only\n');
    const { body } = await rep.call('post', '/imports', { file, fileName, setup }).expect(201);
    await server.app.get(Imports).settled((body as ImportSummary).id);
    await rep.call('post', '/imports', { file, fileName, setup }).expect(409);
    expect(await named(rep, 'lead', 'Once Only')).toHaveLength(1);
  });
});

describe('a template', () => {
  it.each(['lead', 'contact', 'account', 'deal', 'activity'] as const)(
    'for %s is understood column by column',
    async (target) => {
      const { text } = await rep.call('get', `/imports/${target}/template`).expect(200);
      const [headings] = text.replace('\uFEFF', '').split('\r\n');
      const { setup, guess } = await look(
        rep,
        `${headings}\n${'x,'.repeat(headings.split(',').length - 1)}x`,
        target,
      );
      expect(setup.columns.filter((path) => path === null)).toEqual([]);
      expect(guess.columns.every(({ sure }) => sure > 0.9)).toBe(true);
    },
  );

  it('of anything else is not there', async () => {
    await rep.call('get', '/imports/person/template').expect(422);
  });
});

it('needs a session for all of it', async () => {
  const address = server.app.getHttpServer();
  for (const path of ['files?name=x', 'look', 'preview', 'examples', '', '1/cancel'])
    await request(address).post(`/api/v1/imports/${path}`).send('x').expect(401);
});
