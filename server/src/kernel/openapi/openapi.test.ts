import { createConfig, lintFromString } from '@redocly/openapi-core';
import SwaggerParser from '@apidevtools/swagger-parser';
import { type OpenAPIV3_1 } from 'openapi-types';
import { Ajv2020 } from 'ajv/dist/2020';
import request from 'supertest';
import {
  objectKeys,
  objectType,
  type AnyRecord,
  type ListPage,
  type NewApiToken,
  type Written,
} from '@zawn/core';
import { Caller, routesOf, startServer, type TestServer } from '../../testing';

interface Operation {
  summary: string;
  description?: string;
  requestBody?: { content: Record<string, { schema: object; example?: object }> };
  responses: Record<string, object>;
}
interface Document {
  openapi: string;
  paths: Record<string, Record<string, Operation>>;
  components: {
    schemas: Record<string, { properties: Record<string, Record<string, unknown>>; required?: string[] }>;
  };
}

let server: TestServer;
let operations: Caller;
let description: Document;

const METHODS = ['get', 'post', 'patch', 'delete'] as const;
const program = () => request(server.app.getHttpServer());

const token = async (scope: string) => {
  const { body } = await operations.call('post', '/tokens', { name: scope, scope }).expect(201);
  return `Bearer ${(body as NewApiToken).secret}`;
};

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  const answer = await program()
    .get('/api/v1/openapi.json')
    .set('Authorization', await token('leads'))
    .expect(200);
  description = answer.body as Document;
});
afterAll(() => server.close());

describe('the description of the API', () => {
  it('is one by the rules of OpenAPI 3.1', async () => {
    // The validator writes into what it is given.
    const copy = JSON.parse(JSON.stringify(description)) as OpenAPIV3_1.Document;
    await expect(SwaggerParser.validate(copy)).resolves.toMatchObject({ openapi: '3.1.0' });
  });

  it('passes a second reader without a warning', async () => {
    const config = await createConfig({ extends: ['recommended'] });
    const source = JSON.stringify(description);
    const problems = await lintFromString({ source, absoluteRef: '/openapi.json', config });
    expect(problems.map(({ message, location }) => [message, location[0]?.pointer])).toEqual([]);
  });

  it('holds every route of the running application, and no other', () => {
    const described = Object.entries(description.paths).flatMap(([path, item]) =>
      METHODS.filter((method) => item[method]).map((method) => `${method} /api${path}`),
    );
    const running = routesOf(server)
      .filter(({ path }) => path.startsWith('/api/'))
      .map(({ method, path }) => ({
        name: `${method} ${path}`,
        pattern: new RegExp(
          `^${method} ${path.replace(':objects', '[a-z-]+').replace(/:\w+/g, '\\{\\w+\\}')}$`,
        ),
      }));
    const undescribed = running.filter(({ pattern }) => !described.some((each) => pattern.test(each)));
    expect(undescribed.map(({ name }) => name)).toEqual([]);
    const notRunning = described.filter((each) => !running.some(({ pattern }) => pattern.test(each)));
    expect(notRunning).toEqual([]);
    expect(running.length).toBeGreaterThan(75);
  });

  it('refers only to what it holds', () => {
    const refs = [...JSON.stringify(description).matchAll(/"#\/components\/schemas\/(\w+)"/g)].map(
      ([, name]) => name,
    );
    expect(refs.length).toBeGreaterThan(30);
    expect(refs.filter((name) => !(name in description.components.schemas))).toEqual([]);
  });

  it('says of each route what it can answer', async () => {
    const endless = ['get /v1/events', 'delete /v1/session'];
    for (const [path, item] of Object.entries(description.paths)) {
      for (const method of METHODS.filter((each) => item[each] && !endless.includes(`${each} ${path}`))) {
        const address = `/api${path}`.replace('{id}', '999999999').replace(/\{\w+\}/g, '0');
        const headers = { Cookie: operations.cookie, 'X-CSRF-Token': operations.session.csrf };
        const asked = program()[method](address).set(headers);
        const { status } = await (method === 'get' ? asked : asked.send({}));
        expect([method, path, status < 500]).toEqual([method, path, true]);
        expect([method, path, Object.keys(item[method].responses)]).toEqual([
          method,
          path,
          expect.arrayContaining([String(status)]),
        ]);
      }
    }
  });

  it('describes records as they are answered', async () => {
    const ajv = new Ajv2020({ strict: false, allErrors: true });
    let read = 0;
    for (const object of objectKeys) {
      const { path } = objectType(object);
      const { body } = await operations.call('get', `/${path}?limit=5`).expect(200);
      const schema = {
        $ref: `#/components/schemas/${object.charAt(0).toUpperCase()}${object.slice(1)}RecordAnswer`,
      };
      const validate = ajv.compile({ ...schema, components: description.components });
      for (const { id } of (body as ListPage).rows) {
        const { body: answer } = await operations.call('get', `/${path}/${id}`).expect(200);
        validate(answer);
        expect([object, id, validate.errors]).toEqual([object, id, null]);
        read += 1;
      }
    }
    expect(read).toBeGreaterThan(60);
  });

  it('is made from what values are checked by, the organisation’s own fields included', () => {
    const { LeadNew, LeadChange, Lead } = description.components.schemas;
    expect(LeadNew.required).toEqual(['name']);
    // A first or a last name is enough.
    expect(description.components.schemas.ContactNew.required).toEqual(['owner']);
    expect(LeadChange.required).toBeUndefined();
    expect(LeadNew.properties.budget).toMatchObject({ title: 'Budget', minimum: 0 });
    expect(LeadNew.properties.source.enum).toContain('website');
    expect(LeadNew.properties).not.toHaveProperty('convertedAt');
    expect(Lead.properties).toHaveProperty('convertedAt');
    const own = operations.session.customFields.filter(
      ({ object, retired }) => object === 'lead' && !retired,
    );
    for (const { key, label } of own) expect(LeadNew.properties[key]).toMatchObject({ title: label });
    expect(own.length).toBeGreaterThan(0);
  });

  it('has an example of a new lead that runs as it stands', async () => {
    const { post } = description.paths[`/v1/${objectType('lead').path}`];
    const example = post.requestBody?.content['application/json'].example ?? {};
    expect(post.description).toContain("-H 'Authorization: Bearer YOUR_TOKEN'");
    expect(post.description).toContain(JSON.stringify(example));
    const { body } = await program()
      .post('/api/v1/leads')
      .set({ Authorization: await token('leads'), 'Idempotency-Key': 'website-4711' })
      .send(example)
      .expect(201);
    expect((body as Written<AnyRecord>).value).toMatchObject({ name: 'Runa Seagrave', status: 'untouched' });
  });

  it('is for those who may come in', async () => {
    await program().get('/api/v1/openapi.json').expect(401);
  });
});
