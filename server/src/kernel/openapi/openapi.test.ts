import SwaggerParser from '@apidevtools/swagger-parser';
import { type OpenAPIV3_1 } from 'openapi-types';
import request from 'supertest';
import { objectType, type AnyRecord, type NewApiToken, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

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

  it('refers only to what it holds', () => {
    const refs = [...JSON.stringify(description).matchAll(/"#\/components\/schemas\/(\w+)"/g)].map(
      ([, name]) => name,
    );
    expect(refs.length).toBeGreaterThan(30);
    expect(refs.filter((name) => !(name in description.components.schemas))).toEqual([]);
  });

  it('names only routes there are, and each with what can be answered', async () => {
    for (const [path, item] of Object.entries(description.paths)) {
      for (const method of METHODS.filter((each) => item[each])) {
        const { status, body } = await operations.call(
          method,
          path.replace('{id}', '999999999'),
          method === 'get' ? undefined : {},
        );
        const detail = (body as { detail?: string }).detail ?? '';
        expect([method, path, detail.includes('nothing at this address')]).toEqual([method, path, false]);
        expect([method, path, status < 500]).toEqual([method, path, true]);
        expect(Object.keys(item[method].responses)).toContain(String(status));
      }
    }
  });

  it('is made from what values are checked by, the organisation’s own fields included', () => {
    const { LeadNew, LeadChange, Lead } = description.components.schemas;
    expect(LeadNew.required).toEqual(['name']);
    expect(description.components.schemas.ContactNew.required).toEqual(['name', 'owner']);
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
    const { post } = description.paths[`/${objectType('lead').path}`];
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
