import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ask, type AnyRecord, type TimelinePage, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../testing';

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
    expect((body as TimelinePage).entries.map(({ kind }) => kind)).toEqual(['file']);
    const { total } = await rep.records(
      ask('file', { field: 'account', is: 'anyOf', value: [Number(deal.account)] }),
    );
    expect(total).toBe(1);
  });

  it('is kept once however often it comes', async () => {
    await added('again.png', PNG);
    await added('and again.png', PNG);
    expect(kept().filter((entry) => entry.isFile())).toHaveLength(1);
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
