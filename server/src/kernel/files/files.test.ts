import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ask, type AnyRecord, type RecordAnswer, type TimelinePage, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let deal: AnyRecord;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  [deal] = (await rep.records(ask('deal', { field: 'account', is: 'isNotEmpty' }), 1)).rows;
});
afterAll(() => server.close());

const PNG = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');
const add = (name: string, content: Buffer, to = `/deals/${deal.id}`) =>
  rep
    .call('post', `${to}/files?name=${encodeURIComponent(name)}`)
    .set('Content-Type', 'application/octet-stream')
    .send(content);
const added = async (name: string, content: Buffer) =>
  ((await add(name, content).expect(201)).body as Written<AnyRecord>).value;
/** Names of all files kept beside the database. */
const kept = () => readdirSync(join(server.folder, 'files'), { recursive: true, withFileTypes: true });

describe('a file on a record', () => {
  it('is kept by its content, found on the account too, and stands in the timeline', async () => {
    const file = await added('Quay plan.png', PNG);
    expect(file).toMatchObject({
      name: 'Quay plan.png',
      size: PNG.length,
      mediaType: 'image/png',
      deal: deal.id,
      account: deal.account,
    });
    const { body } = await rep.call('get', `/deals/${deal.id}/timeline?kinds=file`).expect(200);
    expect((body as TimelinePage).rows.map(({ kind }) => kind)).toEqual(['file']);
    const { total } = await rep.records(
      ask('file', { field: 'account', is: 'anyOf', value: [Number(deal.account)] }),
    );
    expect(total).toBe(1);
  });

  it('is kept once however often it comes', async () => {
    const before = kept().filter((entry) => entry.isFile()).length;
    await added('again.png', PNG);
    await added('and again.png', PNG);
    expect(kept().filter((entry) => entry.isFile())).toHaveLength(before);
  });

  it('is handed out to be kept; a picture can be shown, able to run nothing', async () => {
    const picture = await added('shown.png', PNG);
    const page = await added('page.html', Buffer.from('<script>alert(1)</script>'));
    const shown = await rep.call('get', `/files/${picture.id}/content?show`).expect(200);
    expect(shown.headers['content-type']).toBe('image/png');
    expect(shown.headers['content-security-policy']).toContain('sandbox');
    const given = await rep.call('get', `/files/${page.id}/content?show`).expect(200);
    expect(given.headers['content-type']).toBe('application/octet-stream');
    expect(given.headers['content-disposition']).toContain('attachment; filename="page.html"');
    expect(given.headers['x-content-type-options']).toBe('nosniff');
  });

  it('that is a PDF is shown where it is, framed by nobody but Zawn', async () => {
    const pdf = await added('survey.pdf', Buffer.from('%PDF-1.7\n%%EOF'));
    const { headers } = await rep.call('get', `/files/${pdf.id}/content?show`).expect(200);
    expect(headers['content-type']).toBe('application/pdf');
    expect(headers['content-disposition']).toBe('inline');
    expect(headers['content-security-policy']).toContain("frame-ancestors 'self'");
    expect(headers['content-security-policy']).not.toContain('sandbox');
  });

  it('is named without any path', async () => {
    expect(await added('../../x', Buffer.from('x'))).toMatchObject({ name: 'x' });
  });

  it('goes to the bin and comes back', async () => {
    const file = await added('gone.txt', Buffer.from('gone'));
    const { body } = await rep.against(1, 'delete', `/files/${file.id}`).expect(200);
    await rep.call('get', `/files/${file.id}/content`).expect(404);
    await rep.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
    expect((await rep.call('get', `/files/${file.id}/content`).expect(200)).body).toEqual(
      Buffer.from('gone'),
    );
  });

  it('is out of reach of who may not see the record', async () => {
    const file = await added('secret.txt', Buffer.from('secret'));
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    await stranger.call('get', `/files/${file.id}/content`).expect(404);
    await stranger
      .call('post', `/deals/${deal.id}/files?name=mine.txt`)
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from('x'))
      .expect(404);
  });
});

describe('a field of one’s own that holds a file', () => {
  let operations: Caller;
  const field = (body: object) =>
    operations.call('post', '/custom-fields', {
      object: 'deal',
      key: 'x_plan',
      label: 'Quay plan',
      type: 'file',
      required: false,
      position: 1,
      retired: false,
      ...body,
    });
  const put = (name: string, key: string, to = `/deals/${deal.id}`) =>
    rep
      .call('post', `${to}/files?name=${name}&field=${key}`)
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from('the plan'));
  const now = async () => (await rep.call('get', `/deals/${deal.id}`)).body as RecordAnswer;

  beforeAll(async () => {
    operations = await Caller.signIn(server, 'bram.tideswell');
    await field({}).expect(201);
  });

  it('is filled with the file in one step, which is taken back as one', async () => {
    const { body } = await put('plan.txt', 'x_plan').expect(201);
    const { unit, label, value } = body as Written<AnyRecord>;
    expect(label).toBe('Put “plan.txt” into Quay plan');
    const { record, names } = await now();
    expect(record.x_plan).toBe(value.id);
    expect(names.file?.[value.id]).toBe('plan.txt');
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect((await now()).record.x_plan).toBeNull();
    await rep.call('get', `/files/${value.id}/content`).expect(404);
  });

  it('is asked about, exported by the file’s name, and emptied like any other', async () => {
    await put('second.txt', 'x_plan').expect(201);
    const question = ask('deal', { field: 'x_plan', is: 'isNotEmpty' });
    expect((await rep.records(question)).rows.map(({ id }) => id)).toEqual([deal.id]);
    const csv = await operations.call('post', '/exports', {
      design: { question: { ...question, columns: ['name', 'x_plan'] }, draw: 'table' },
      format: 'csv',
      fields: 'shown',
    });
    expect(csv.text).toContain('second.txt');
    const { version } = (await now()).record;
    await rep.against(version, 'patch', `/deals/${deal.id}`, { x_plan: null }).expect(200);
    expect((await rep.records(question)).rows).toEqual([]);
  });

  it('of an activity hangs on what that is about', async () => {
    await field({ object: 'activity', key: 'x_minutes', label: 'Minutes' }).expect(201);
    const { body } = await rep.call('post', '/activities', {
      name: 'Talk about the quay',
      kind: 'call',
      dueOn: '2026-11-20',
      owner: deal.owner,
      deal: deal.id,
    });
    const { id } = (body as Written<AnyRecord>).value;
    const answer = await put('minutes.txt', 'x_minutes', `/activities/${id}`).expect(201);
    expect((answer.body as Written<AnyRecord>).value).toMatchObject({ deal: deal.id, account: deal.account });
  });

  it('takes no file out of reach, and none meant for another field', async () => {
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    const theirs = (await stranger.records(ask('deal'), 1)).rows[0];
    const { body } = await stranger
      .call('post', `/deals/${theirs.id}/files?name=theirs.txt`)
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from('x'));
    const { id } = (body as Written<AnyRecord>).value;
    const { version } = (await now()).record;
    const refused = await rep.against(version, 'patch', `/deals/${deal.id}`, { x_plan: id }).expect(422);
    expect(JSON.stringify(refused.body)).toContain('there is no such file');
    const other = await put('plan.txt', 'name').expect(422);
    expect(JSON.stringify(other.body)).toContain('Deals have no field name for files');
  });

  it('cannot be required, nor what new records begin with', async () => {
    const required = await field({ key: 'x_other', required: true }).expect(422);
    expect(JSON.stringify(required.body)).toContain('so it cannot be required');
    const begun = await field({ key: 'x_other', preset: '1' }).expect(422);
    expect(JSON.stringify(begun.body)).toContain('cannot begin with a file');
  });
});

describe('a file that cannot be taken', () => {
  it.each([
    ['empty.txt', Buffer.alloc(0), 422, 'empty.txt is empty'],
    ['photo.png', Buffer.from('<html>'), 422, 'photo.png does not hold a PNG picture'],
    ['..', Buffer.from('x'), 422, 'The file needs a name'],
    ['large.bin', Buffer.alloc(26 * 1024 * 1024, 1), 413, 'large.bin is larger than 25 MB'],
  ])('is refused by name, and nothing of it stays: %s', async (name, content, status, words) => {
    const before = kept().length;
    const answer = await add(name, content);
    expect(answer.status).toBe(status);
    expect(JSON.stringify(answer.body)).toContain(words);
    expect(kept()).toHaveLength(before);
  });

  it('is not a record without content', async () => {
    await rep.call('post', '/files', { name: 'x', deal: deal.id }).expect(422);
    const { body } = await rep.call('post', '/files', { name: 'x' }).expect(422);
    expect(body).toMatchObject({
      faults: expect.arrayContaining([expect.objectContaining({ field: 'hash' })]),
    });
  });
});
