import request from 'supertest';
import { startServer, type TestServer } from '../../testing';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: false });
});
afterAll(() => server.close());

const organisation = {
  name: 'Tolmouth Gauges',
  currency: 'EUR',
  fiscalYearStart: 7,
  weekStart: 1,
  timeZone: 'Europe/Dublin',
  country: 'IE',
  person: { name: 'Orla Haldane', email: 'Orla@tolmouth.example', password: 'low water mark' },
};
const create = (changes: object) =>
  request(server.app.getHttpServer())
    .post('/api/v1/organisation')
    .send({ ...organisation, ...changes });

describe('a normal start', () => {
  it('has no list of people and begins with creating the organisation', async () => {
    const { body } = await request(server.app.getHttpServer()).get('/api/v1/session').expect(200);
    expect(body).toEqual({ signedIn: false, organisationExists: false, demoPeople: [] });
  });

  it.each([
    [{ currency: 'GBX' }, 'currency'],
    [{ timeZone: 'Europe/Atlantis' }, 'timeZone'],
    [{ country: 'ZZ' }, 'country'],
    [{ fiscalYearStart: 13 }, 'fiscalYearStart'],
    [{ person: { ...organisation.person, password: 'short' } }, 'person.password'],
    [{ person: { ...organisation.person, email: 'orla' } }, 'email'],
  ])('refuses %j and writes nothing', async (changes, field) => {
    const { body } = await create(changes).expect(422);
    expect((body as { faults: { field: string }[] }).faults.map((fault) => fault.field)).toContain(field);
    const { body: session } = await request(server.app.getHttpServer()).get('/api/v1/session');
    expect(session).toMatchObject({ organisationExists: false });
  });

  it('creates the organisation once, with the first person signed in and a pipeline to start with', async () => {
    const response = await create({}).expect(201);
    const cookie = response.get('Set-Cookie')?.[0] ?? '';
    const { body } = await request(server.app.getHttpServer()).get('/api/v1/session').set('Cookie', cookie);
    expect(body).toMatchObject({
      signedIn: true,
      me: { name: 'Orla Haldane', email: 'orla@tolmouth.example', role: 'operations' },
      organisation: { name: 'Tolmouth Gauges', fiscalYearStart: 7 },
      pipelines: [{ name: 'Sales' }],
    });
    expect((body as { stages: object[] }).stages).toHaveLength(4);
    await create({ name: 'Another' }).expect(409);
  });
});
