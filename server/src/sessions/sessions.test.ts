import request from 'supertest';
import { Clock } from '../clock/clock';
import { Caller, startServer, type TestServer } from '../testing';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: true });
});
afterAll(() => server.close());

const http = () => request(server.app.getHttpServer());
const signIn = (email: string, password = 'brackwater') =>
  http().post('/api/v1/session').send({ email, password });

describe('signing in', () => {
  it('hands out a cookie that scripts cannot read and other sites do not send', async () => {
    const response = await signIn('Tamsin.Rudd@brackwater.example').expect(201);
    expect(response.get('Set-Cookie')?.[0]).toMatch(/HttpOnly.*SameSite=Lax/);
    expect(response.body).toMatchObject({ signedIn: true, me: { name: 'Tamsin Rudd', role: 'rep' } });
    expect(JSON.stringify(response.body)).not.toContain('argon2');
  });

  it('gives nothing away about which of the two was wrong', async () => {
    const wrongPassword = await signIn('tamsin.rudd@brackwater.example', 'nope').expect(401);
    const wrongMail = await signIn('nobody@brackwater.example', 'nope').expect(401);
    expect(wrongPassword.body).toEqual(wrongMail.body);
    expect(wrongMail.type).toBe('application/problem+json');
  });

  it('refuses what is no mail address and password', async () => {
    for (const body of [{}, { email: 1, password: 'x' }, { email: 'a', password: 'b', more: 1 }]) {
      const { body: problem } = await http().post('/api/v1/session').send(body).expect(422);
      expect(problem).toMatchObject({ type: '/problems/invalid-input', status: 422 });
    }
  });
});

describe('a session', () => {
  it('is needed to read, and its token to write', async () => {
    const { body } = await http().get('/api/v1/leads/1').expect(401);
    expect(body).toMatchObject({ type: '/problems/not-signed-in' });
    const caller = await Caller.signIn(server, 'tamsin.rudd');
    const { body: refusal } = await caller
      .call('post', '/leads', { name: 'X' }, { 'X-CSRF-Token': 'wrong' })
      .expect(403);
    expect(refusal).toMatchObject({ type: '/problems/missing-token' });
  });

  it('ends at sign-out', async () => {
    const caller = await Caller.signIn(server, 'tamsin.rudd');
    await caller.call('get', '/imports').expect(200);
    await caller.call('delete', '/session').expect(204);
    const { body } = await caller.call('get', '/imports').expect(401);
    expect(body).toMatchObject({ detail: 'Your session has ended. Sign in again.' });
  });

  it('ends by time', async () => {
    const caller = await Caller.signIn(server, 'tamsin.rudd');
    const clock = server.app.get(Clock);
    const later = jest.spyOn(clock, 'now').mockReturnValue('2026-12-19T09:30:00.000Z');
    await caller.call('get', '/imports').expect(401);
    later.mockRestore();
    await caller.call('get', '/imports').expect(200);
  });

  it('tells a visitor only what the sign-in page needs', async () => {
    const { body } = await http().get('/api/v1/session').expect(200);
    expect(Object.keys(body as object).sort()).toEqual(['demoPeople', 'organisationExists', 'signedIn']);
  });
});

// Last, because it uses up the tries of this address.
describe('guessing passwords', () => {
  it('is slowed down', async () => {
    let last = 0;
    for (let tries = 0; tries < 20 && last !== 429; tries += 1) {
      last = (await signIn('tamsin.rudd@brackwater.example', `guess ${tries}`)).status;
    }
    expect(last).toBe(429);
    const { body } = await signIn('tamsin.rudd@brackwater.example');
    expect(body).toMatchObject({
      type: '/problems/too-many-requests',
      detail: 'Too many tries. Wait a minute, then try again.',
    });
  });
});
