import { type AnyRecord, type ProblemBody, type SignedIn, type Written } from '@zawn/core';
import { join } from 'node:path';
import { identify } from '../../platform/database/snapshot';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let colleague: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  colleague = await Caller.signIn(server, 'maren.ollerby');
});
afterAll(() => server.close());

const session = async (who: Caller) => (await who.call('get', '/session').expect(200)).body as SignedIn;
const detailOf = ({ body }: { body: unknown }) => (body as ProblemBody).detail;
const DOT = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const sendPhoto = (content: Buffer) =>
  rep.call('patch', '/session/photo').set('Content-Type', 'application/octet-stream').send(content);

describe('what people say about themselves', () => {
  it('is changed by themselves, logged, and undone', async () => {
    const before = (await session(rep)).profile;
    const own = {
      jobTitle: 'Harbours, north',
      timeZone: 'Europe/Oslo',
      workingDays: ['mon', 'tue', 'wed', 'thu'],
      opens: '08:00',
      closes: '15:00',
      signature: 'Tamsin Rudd\nBrackwater',
    };
    const { body } = await rep.call('patch', '/session/profile', own).expect(200);
    const sorted = { ...own, workingDays: ['mon', 'thu', 'tue', 'wed'] };
    expect((await session(rep)).profile).toEqual({ ...before, ...sorted });
    const { body: log } = await colleague.call('get', `/people/${rep.id}`).expect(200);
    expect((log as { record: AnyRecord }).record.jobTitle).toBe('Harbours, north');
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect((await session(rep)).profile).toEqual(before);
  });

  it('is nothing else of their entry, nobody else’s, and makes sense', async () => {
    for (const [values, complaint] of [
      [{ role: 'operations' }, /role/],
      [{ team: 1 }, /team/],
      [{ active: false }, /active/],
      [{ photo: 'a'.repeat(64) }, /photo/],
      [{ name: '' }, /name/i],
      [{ timeZone: 'Europe/Atlantis' }, /Time zone/],
      [{ opens: '09:00', closes: '08:00' }, /end after/],
      [{ opens: 'nine' }, /Works from/],
      [{ workingDays: ['someday'] }, /workingDays/],
    ] as const) {
      const answer = await rep.call('patch', '/session/profile', values);
      expect([answer.status, detailOf(answer)]).toEqual([422, expect.stringMatching(complaint) as string]);
    }
    const { body } = await rep.call('get', `/people/${colleague.id}`).expect(200);
    const { version } = (body as { record: AnyRecord }).record;
    const other = await rep.against(version, 'patch', `/people/${colleague.id}`, { jobTitle: 'Deckhand' });
    expect(other.status).toBe(403);
  });

  it('has a photo, which colleagues see, and which comes back when taking it away is undone', async () => {
    await sendPhoto(DOT).expect(200);
    const { photo } = (await session(rep)).profile;
    const seen = (await session(colleague)).people.find(({ id }) => id === rep.id);
    expect(seen?.photo).toBe(photo);
    const shown = await colleague.call('get', `/people/${rep.id}/photo`).expect(200);
    expect([shown.headers['content-type'], shown.body]).toEqual(['image/png', DOT]);
    expect(shown.headers['content-security-policy']).toContain('sandbox');
    await colleague.call('get', `/people/${rep.id}/photo?photo=${photo}`).expect(200);
    await colleague.call('get', `/people/${rep.id}/photo?photo=${'0'.repeat(64)}`).expect(404);
    const { body } = await rep.call('delete', '/session/photo').expect(200);
    await colleague.call('get', `/people/${rep.id}/photo`).expect(404);
    // So that it can come back, it is a file that is named.
    expect(identify(join(server.folder, 'zawn.sqlite')).files).toContain(photo);
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    await colleague.call('get', `/people/${rep.id}/photo`).expect(200);
  });

  it('has no photo that is none, or a large one', async () => {
    const svg = await sendPhoto(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'));
    expect([svg.status, detailOf(svg)]).toEqual([422, expect.stringContaining('PNG, JPEG or WebP')]);
    const large = await sendPhoto(Buffer.concat([DOT, Buffer.alloc(500_000)]));
    expect([large.status, detailOf(large)]).toEqual([422, expect.stringContaining('smaller')]);
  });

  it('writes dates and numbers in a language that there is', async () => {
    await rep.call('patch', '/preferences', { locale: 'de-DE' }).expect(200);
    expect((await session(rep)).preferences.locale).toBe('de-DE');
    await rep.call('patch', '/preferences', { locale: 'not a language' }).expect(422);
    await rep.call('patch', '/preferences', { locale: null }).expect(200);
  });
});
