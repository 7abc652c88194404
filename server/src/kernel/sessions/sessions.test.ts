import request from 'supertest';
import { Clock } from '../../platform/clock/clock';
import { Caller, startServer, type TestServer } from '../../testing';

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

  it('refuses what is no email address and password', async () => {
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

/** A server that believes what a proxy says of the caller's address, so that tests can come from many. */
describe('guessing passwords', () => {
  let proxied: TestServer;
  let at = 0;
  beforeAll(async () => {
    proxied = await startServer({ demo: true, config: { proxies: 1 } });
  });
  afterAll(() => proxied.close());
  const from = (address: string, account: string, password = 'brackwater', cookie = '') =>
    request(proxied.app.getHttpServer())
      .post('/api/v1/session')
      .set({ 'X-Forwarded-For': address, ...(cookie ? { Cookie: cookie } : {}) })
      .send({ email: `${account}@brackwater.example`, password });
  const somewhere = () => `198.51.100.${(at += 1)}`;
  const guess = async (times: number, address: () => string, account: string) => {
    const statuses: number[] = [];
    for (let tries = 0; tries < times; tries += 1)
      statuses.push((await from(address(), account, `guess ${tries}`)).status);
    return statuses;
  };

  it('has to wait, longer each time, and the right password waits with it', async () => {
    const here = somewhere();
    const statuses = await guess(8, () => here, 'tamsin.rudd');
    expect(statuses).toEqual([401, 401, 401, 401, 401, 429, 429, 429]);
    const { body } = await from(here, 'tamsin.rudd').expect(429);
    expect((body as { detail: string }).detail).toMatch(/^Too many tries\. Wait a second, then try again\.$/);
    expect(await guessesAtOnce(here, 'lars.westerholt', 30)).toBe(5);
  });

  const guessesAtOnce = async (address: string, account: string, times: number) => {
    const answers = await Promise.all(
      Array.from({ length: times }, (_, tries) => from(address, account, `at once ${tries}`)),
    );
    return answers.filter(({ status }) => status === 401).length;
  };

  it('locks out neither a neighbour nor somebody at another address', async () => {
    const shared = somewhere();
    await guess(12, () => shared, 'maren.ollerby');
    await from(shared, 'conor.wansbeck').expect(201);
    await from(somewhere(), 'maren.ollerby').expect(201);
  });

  it('from everywhere slows guesses down and lets the person in all the same', async () => {
    const home = somewhere();
    const { headers } = await from(home, 'signe.abernock').expect(201);
    const cookie = (headers['set-cookie'] as unknown as string[])
      .map((each) => each.split(';')[0])
      .join('; ');
    await guess(30, somewhere, 'signe.abernock');
    const began = performance.now();
    await from(somewhere(), 'signe.abernock').expect(201);
    expect(performance.now() - began).toBeGreaterThan(200);
    // The browser she knows is not even slowed down, though its address guesses too.
    await guess(7, () => home, 'signe.abernock');
    await from(home, 'signe.abernock', 'brackwater', cookie).expect(201);
  });

  it('takes no word of who is not a trusted proxy', async () => {
    // At once, as on a slow machine the wait can be over between one guess and the next.
    const answers = await Promise.all(
      Array.from({ length: 9 }, (_, tries) =>
        signIn('greta.lindqvell@brackwater.example', `guess ${tries}`).set({
          'X-Forwarded-For': somewhere(),
        }),
      ),
    );
    const statuses = answers.map(({ status }) => status).sort();
    expect(statuses).toEqual([401, 401, 401, 401, 401, 429, 429, 429, 429]);
  });
});

describe('another site', () => {
  const credentials = { email: 'tamsin.rudd@brackwater.example', password: 'brackwater' };

  it.each<[string, (test: request.Test) => request.Test, number]>([
    ['a form', (test) => test.type('form').send(credentials), 415],
    [
      'a form that looks like JSON',
      (test) => test.set({ 'Content-Type': 'text/plain' }).send(`${JSON.stringify(credentials)}=`),
      415,
    ],
    [
      'JSON, as its browser says',
      (test) => test.set({ 'Sec-Fetch-Site': 'cross-site' }).send(credentials),
      403,
    ],
  ])('cannot sign anyone in by %s', async (_, send, status) => {
    const answer = await send(http().post('/api/v1/session')).expect(status);
    expect(answer.get('Set-Cookie')).toBeUndefined();
  });
});

describe('an encrypted address', () => {
  it('keeps cookies and browsers to it', async () => {
    const secure = await startServer({ demo: true, config: { address: 'https://zawn.example' } });
    const answer = await request(secure.app.getHttpServer())
      .post('/api/v1/session')
      .send({ email: 'tamsin.rudd@brackwater.example', password: 'brackwater' })
      .expect(201);
    for (const cookie of answer.get('Set-Cookie') ?? []) expect(cookie).toMatch(/; Secure/);
    expect(answer.get('Set-Cookie')).toHaveLength(2);
    expect(answer.get('Strict-Transport-Security')).toContain('max-age=');
    await secure.close();
    const plain = await signIn('bram.tideswell@brackwater.example').expect(201);
    expect(plain.get('Set-Cookie')?.[0]).not.toContain('Secure');
    expect(plain.get('Strict-Transport-Security')).toBeUndefined();
  });
});
