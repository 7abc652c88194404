import request from 'supertest';
import {
  type AnyRecord,
  type NewPasswordLink,
  type NewSecondStep,
  type OwnAccess,
  type PersonAccess,
  type ProblemBody,
  type Written,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';
import { Retention } from '../../features/organisation/retention';
import { SecondSteps } from './second-steps';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true, config: { smtp: 'smtp://127.0.0.1:9' } });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const http = () => request(server.app.getHttpServer());
const signIn = (email: string, password: string, code?: string) =>
  http()
    .post('/api/v1/session')
    .send({ email, password, ...(code === undefined ? {} : { code }) });
const detailOf = ({ body }: { body: unknown }) => (body as ProblemBody).detail;

let count = 0;
/** Somebody who works here and cannot get in yet. */
async function newcomer(): Promise<AnyRecord & { email: string }> {
  count += 1;
  const email = `newcomer${count}@brackwater.example`;
  const values = { name: `Newcomer ${count}`, email, role: 'rep', active: true };
  const { body } = await operations.call('post', '/people', values).expect(201);
  return (body as Written<AnyRecord & { email: string }>).value;
}
async function linkFor(id: number): Promise<string> {
  const { body } = await operations.call('post', `/people/${id}/password-link`).expect(201);
  const { address } = body as NewPasswordLink;
  expect(address).toMatch(/^http:\/\/zawn\.test\/password\/[\w-]{43}$/);
  return `/api/v1/password-links/${address.split('/').pop()}`;
}
/** Somebody who has come in, with the password. */
async function settled(password = 'a quiet harbour') {
  const person = await newcomer();
  const link = await linkFor(person.id);
  await http().post(link).send({ password }).expect(201);
  return person;
}
/** A browser that is signed in. */
async function browser(email: string, password: string, code?: string) {
  const response = await signIn(email, password, code).expect(201);
  const cookie = response.get('Set-Cookie')?.[0].split(';')[0] ?? '';
  const headers = { Cookie: cookie, 'X-CSRF-Token': (response.body as { csrf: string }).csrf };
  return (method: 'get' | 'post' | 'patch' | 'delete', path: string, body?: object) =>
    http()[method](`/api/v1/session${path}`).set(headers).send(body);
}

describe('an invitation', () => {
  it('lets somebody choose a password, once, and brings them in', async () => {
    const person = await newcomer();
    await signIn(person.email, 'a quiet harbour').expect(401);
    const link = await linkFor(person.id);
    const { body } = await http().get(link).expect(200);
    expect(body).toMatchObject({ purpose: 'invitation', name: person.name, email: person.email });
    const response = await http().post(link).send({ password: 'a quiet harbour' }).expect(201);
    expect(response.body).toMatchObject({ signedIn: true, me: { id: person.id } });
    expect(detailOf(await http().get(link).expect(404))).toMatch(/used already/);
    expect(detailOf(await http().post(link).send({ password: 'another harbour' }).expect(404))).toMatch(
      /used already/,
    );
    await signIn(person.email, 'a quiet harbour').expect(201);
  });

  it('of two who use it at once lets one in', async () => {
    const { id } = await newcomer();
    const link = await linkFor(id);
    const answers = await Promise.all(
      Array.from({ length: 5 }, (_, at) =>
        http()
          .post(link)
          .send({ password: `a quiet harbour ${at}` }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 404, 404, 404, 404]);
  });

  it('expires, and is ended by the next one', async () => {
    const { id } = await newcomer();
    const first = await linkFor(id);
    const second = await linkFor(id);
    expect(detailOf(await http().get(first).expect(404))).toMatch(/newer one took its place/);
    const later = jest.spyOn(server.app.get(Clock), 'now').mockReturnValue('2026-11-26T09:30:00.001Z');
    expect(detailOf(await http().post(second).send({ password: 'a quiet harbour' }).expect(404))).toMatch(
      /expired/,
    );
    later.mockRestore();
    await http().post(second).send({ password: 'a quiet harbour' }).expect(201);
  });

  it('is not ended by a stranger who asks for a link with its address', async () => {
    const { id, email } = await newcomer();
    const link = await linkFor(id);
    await http().post('/api/v1/password-links').send({ email }).expect(202);
    const { manager } = server.app.get(Database).reading;
    for (
      let tries = 0;
      tries < 100 && (await manager.countBy('passwordLink', { person: id })) < 2;
      tries += 1
    )
      await new Promise((resolve) => setTimeout(resolve, 10));
    expect(await manager.countBy('passwordLink', { person: id })).toBe(2);
    await http().get(link).expect(200);
    // The one that is used ends the other.
    await http().post(link).send({ password: 'a quiet harbour' }).expect(201);
    expect(await manager.countBy('passwordLink', { person: id })).toBe(1);
  });

  it('is made only by those who look after people, and for nobody who left', async () => {
    const { id, version } = await newcomer();
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    await rep.call('post', `/people/${id}/password-link`).expect(403);
    await rep.call('get', '/people/access').expect(403);
    await operations.against(version, 'patch', `/people/${id}`, { active: false }).expect(200);
    expect(detailOf(await operations.call('post', `/people/${id}/password-link`).expect(409))).toMatch(
      /has left/,
    );
    await operations.call('post', '/people/999999/password-link').expect(404);
  });

  it('opens nothing once its person has left', async () => {
    const { id, version } = await newcomer();
    const link = await linkFor(id);
    await operations.against(version, 'patch', `/people/${id}`, { active: false }).expect(200);
    await http().post(link).send({ password: 'a quiet harbour' }).expect(404);
  });

  it('goes by email, and nothing of its secret is kept where it is looked up', async () => {
    const { id } = await newcomer();
    const secret = (await linkFor(id)).split('/').pop() as string;
    const { manager } = server.app.get(Database).reading;
    const [copy] = await manager.findBy<{ id: number; path: string; person: number }>('mailCopy', {
      person: id,
    });
    expect(copy.path).toBe(`/password/${secret}`);
    expect(JSON.stringify(await manager.find('passwordLink'))).not.toContain(secret);
  });
});

describe('a password', () => {
  it.each([
    ['short', 'too short', /at least 10/],
    ['password1234', 'tried first', /tried first/],
    ['Brackwater Instruments', 'the name of the organisation', /organisation’s name/],
    ['aaaaabbbbb', 'two letters', /same few characters/],
  ])('%s is refused: %s', async (password, _why, message) => {
    const { id } = await newcomer();
    const link = await linkFor(id);
    expect(detailOf(await http().post(link).send({ password }).expect(422))).toMatch(message);
    // The link still works.
    await http().get(link).expect(200);
  });

  it('is changed with the present one, which ends the sessions elsewhere', async () => {
    const { email } = await settled('a quiet harbour');
    const here = await browser(email, 'a quiet harbour');
    const there = await browser(email, 'a quiet harbour');
    const wrong = await here('patch', '/password', { present: 'not this', password: 'a slate roof' });
    expect([wrong.status, detailOf(wrong)]).toEqual([422, expect.stringMatching(/present password/)]);
    await there('get', '/access').expect(200);
    await here('patch', '/password', { present: 'a quiet harbour', password: 'a slate roof' }).expect(204);
    await here('get', '/access').expect(200);
    await there('get', '/access').expect(401);
    await signIn(email, 'a quiet harbour').expect(401);
    await signIn(email, 'a slate roof').expect(201);
  });

  it('forgotten is set anew by a link, asked for without telling whether somebody has the address', async () => {
    const { id, email } = await settled('a quiet harbour');
    const ask = (address: string) => http().post('/api/v1/password-links').send({ email: address });
    const [known, unknown] = [await ask(email), await ask('nobody@brackwater.example')];
    expect([known.status, known.body]).toEqual([unknown.status, unknown.body]);
    const { manager } = server.app.get(Database).reading;
    let path: string | undefined;
    for (let tries = 0; tries < 100 && path === undefined; tries += 1) {
      const copies = await manager.findBy<{ subject: string; path: string; person: number }>('mailCopy', {
        person: id,
      });
      path = copies.find(({ subject }) => /new password/i.test(subject))?.path;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    const link = `/api/v1/password-links/${path?.split('/').pop()}`;
    expect((await http().get(link).expect(200)).body).toMatchObject({ purpose: 'reset' });
    await http().post(link).send({ password: 'a slate roof' }).expect(201);
    await signIn(email, 'a slate roof').expect(201);
  });

  it('cannot be asked for where no mail is sent, and that is said to everybody alike', async () => {
    const silent = await startServer({ demo: true });
    const ask = (email: string) =>
      request(silent.app.getHttpServer()).post('/api/v1/password-links').send({ email });
    const answers = [await ask('tamsin.rudd@brackwater.example'), await ask('nobody@brackwater.example')];
    expect(answers.map(({ status }) => status)).toEqual([409, 409]);
    expect(detailOf(answers[0])).toBe(detailOf(answers[1]));
    await silent.close();
  });
});

describe('a second step', () => {
  const codeAt = async (secret: string, at: number) => {
    const { authenticator } = await import('otplib');
    return authenticator.clone({ epoch: at }).generate(secret);
  };

  it('asks for a code that opens once, or for a recovery code that does', async () => {
    const { id, email } = await settled('a quiet harbour');
    const here = await browser(email, 'a quiet harbour');
    const begun = await here('post', '/second-step').expect(201);
    const { secret, picture } = begun.body as NewSecondStep;
    expect(picture).toMatch(/^<svg/);
    // Set up but not confirmed, it is asked of nobody.
    await signIn(email, 'a quiet harbour').expect(201);
    await here('patch', '/second-step', { code: '000000' }).expect(422);
    const confirmed = await here('patch', '/second-step', { code: await codeAt(secret, Date.now()) }).expect(
      200,
    );
    const { recoveryCodes } = confirmed.body as { recoveryCodes: string[] };
    expect(recoveryCodes).toHaveLength(8);

    const without = await signIn(email, 'a quiet harbour').expect(401);
    expect((without.body as ProblemBody).type).toBe('/problems/second-step');
    expect(without.get('Set-Cookie')).toBeUndefined();
    await signIn(email, 'a quiet harbour', '123456').expect(401);
    await signIn(email, 'wrong wrong wrong', recoveryCodes[0]).expect(401);
    // The code it was confirmed with was used.
    await signIn(email, 'a quiet harbour', await codeAt(secret, Date.now())).expect(401);
    await signIn(email, 'a quiet harbour', recoveryCodes[0].toUpperCase()).expect(201);
    const again = await signIn(email, 'a quiet harbour', recoveryCodes[0]);
    expect(again.status).toBe(401);
    expect((await here('get', '/access').expect(200)).body).toMatchObject({
      secondStep: { isOn: true, recoveryCodesLeft: 7 },
    });
    // Whoever lost everything is helped by whoever looks after people.
    await operations.call('post', `/people/${id}/second-step/removal`).expect(204);
    await signIn(email, 'a quiet harbour').expect(201);
  });

  it('bears a clock that is half a minute off, and takes no code twice', async () => {
    const { id } = await settled();
    const steps = server.app.get(SecondSteps);
    const { secret } = await steps.begin(id, 'x@brackwater.example');
    const now = Date.parse('2026-11-19T09:30:10Z');
    await steps.confirm(id, await codeAt(secret, now - 90_000), now - 90_000);
    expect(await steps.use(id, await codeAt(secret, now - 60_000), now)).toBeUndefined();
    expect(await steps.use(id, await codeAt(secret, now - 30_000), now)).toBe('password');
    expect(await steps.use(id, await codeAt(secret, now - 30_000), now)).toBeUndefined();
    expect(await steps.use(id, await codeAt(secret, now + 60_000), now)).toBeUndefined();
    expect(await steps.use(id, await codeAt(secret, now + 30_000), now)).toBe('password');
    // What came before it is passed as well.
    expect(await steps.use(id, await codeAt(secret, now), now)).toBeUndefined();
  });

  it('is not skipped by a link for a new password', async () => {
    const { id, email } = await settled();
    const steps = server.app.get(SecondSteps);
    const { secret } = await steps.begin(id, email);
    await steps.confirm(id, await codeAt(secret, Date.now()));
    const response = await http()
      .post(await linkFor(id))
      .send({ password: 'a slate roof' });
    expect([response.status, response.body]).toEqual([201, { signedIn: false }]);
    expect(response.get('Set-Cookie')).toBeUndefined();
    await signIn(email, 'a slate roof').expect(401);
  });

  it('is taken off with the password', async () => {
    const { id, email } = await settled('a quiet harbour');
    const here = await browser(email, 'a quiet harbour');
    const steps = server.app.get(SecondSteps);
    const { secret } = await steps.begin(id, email);
    await steps.confirm(id, await codeAt(secret, Date.now()));
    await here('delete', '/second-step', { present: 'not this' }).expect(422);
    expect(await steps.isOn(id)).toBe(true);
    await here('delete', '/second-step', { present: 'a quiet harbour' }).expect(204);
    expect(await steps.isOn(id)).toBe(false);
  });
});

describe('one’s own sessions', () => {
  it('are listed with where they come from, and ended one by one or all at once', async () => {
    const { email } = await settled('a quiet harbour');
    await signIn(email, 'wrong wrong wrong').expect(401);
    const here = await browser(email, 'a quiet harbour');
    const there = await browser(email, 'a quiet harbour');
    const { body } = await here('get', '/access').expect(200);
    const { sessions, signIns } = body as OwnAccess;
    expect(sessions.filter(({ isThis }) => isThis)).toHaveLength(1);
    expect(signIns.map(({ how, isIn }) => [how, isIn])).toEqual([
      ['password', true],
      ['password', true],
      ['password', false],
      ['link', true],
    ]);
    expect(JSON.stringify(body)).not.toContain('csrf');
    const other = await settled();
    const stranger = await browser(other.email, 'a quiet harbour');
    await stranger('delete', `/others/${sessions[0].id}`).expect(404);
    await here('delete', '/others').expect(204);
    await there('get', '/access').expect(401);
    await here('get', '/access').expect(200);
  });

  it('are counted for whoever looks after people, who sees nothing else of them', async () => {
    const { id } = await settled();
    const { body } = await operations.call('get', '/people/access').expect(200);
    const { people } = body as { people: PersonAccess[] };
    expect(people.find(({ person }) => person === id)).toEqual({
      person: id,
      hasPassword: true,
      hasSecondStep: false,
      linkUntil: null,
      lastSignInAt: '2026-11-19T09:30:00.000Z',
      sessions: 1,
    });
  });

  it('are kept for half a year, and links that no longer work for a month', async () => {
    const { id } = await settled();
    const { reading, writer } = server.app.get(Database);
    const origin = { address: '', browser: '' };
    const signIn = (at: string) => ({ person: id, at, how: 'password', isIn: true, ...origin });
    await writer.transaction((manager) =>
      manager.insert('signIn', [signIn('2026-05-20T00:00:00.000Z'), signIn('2026-05-25T00:00:00.000Z')]),
    );
    const [job] = server.app.get(Retention).nightlyJobs();
    await job.work();
    const kept = await reading.manager.findBy<{ person: number; at: string }>('signIn', { person: id });
    expect(kept.map(({ at }) => at.slice(0, 10)).sort()).toEqual(['2026-05-25', '2026-11-19']);
    const used = { person: id };
    expect(await reading.manager.countBy('passwordLink', used)).toBe(1);
    const later = jest.spyOn(server.app.get(Clock), 'now').mockReturnValue('2027-01-01T00:00:00.000Z');
    await job.work();
    later.mockRestore();
    expect(await reading.manager.countBy('passwordLink', used)).toBe(0);
  });
});
