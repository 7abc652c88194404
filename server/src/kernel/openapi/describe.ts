import { type Schema } from 'joi';
import parse from 'joi-to-json';
import {
  fieldsOf,
  objectKeys,
  objectType,
  type Catalogue,
  type Field,
  type FieldType,
  type ObjectKey,
} from '@zawn/core';
import { recordSchema, type Locale } from '@zawn/core/validation';
import { figuresBody, LONGEST_PAGE, PAGE, recordsBody } from '../questions/questions.controller';

type Json = Record<string, unknown>;

const DIALECT = 'open-api-3.1';

/** What a lead takes at least, as an example that can be sent as it is. */
export const exampleLead = {
  name: 'Runa Seagrave',
  organisation: 'Seagrave Harbour Trust',
  email: 'runa@seagrave.example',
  phone: '+44 1632 960123',
  interest: 'Two tide gauges',
  source: 'website',
};

/** What a new lead is given when it comes without. */
const FILLED_IN = ['status', 'owner'];

/** How values of a type are written, where their JSON type does not say so. */
const written: Partial<Record<FieldType, string>> = {
  money: 'Whole minor units of the record’s currency: 1250 is 12.50.',
  date: 'YYYY-MM-DD',
  time: 'HH:MM',
  dateTime: 'An instant, ISO 8601 in UTC.',
  phone: 'In any spelling; kept as E.164.',
  web: 'An address or a domain; kept as the bare domain.',
  country: 'A name or an ISO 3166 code; kept as the code.',
  currency: 'ISO 4217',
  tags: 'Words of your own.',
};

function described(field: Field): Json {
  const parts = [field.help, written[field.type], field.to ? `The id of a ${field.to}.` : undefined];
  const description = parts.filter(Boolean).join(' ');
  return { title: field.label, ...(description ? { description } : {}) };
}

/** The values of a record on an occasion, as JSON schema, made from what they are checked by. */
function valuesOf(
  object: ObjectKey,
  purpose: 'create' | 'change',
  catalogue: Catalogue,
  locale: Locale,
): Json {
  const schema = parse(recordSchema({ object, purpose, setter: 'hand', locale, catalogue }), DIALECT) as Json;
  const properties = schema.properties as Record<string, Json>;
  const fields = new Map(fieldsOf(catalogue, object));
  for (const [key, property] of Object.entries(properties)) {
    const field = fields.get(key);
    if (field) Object.assign(property, described(field));
  }
  if (purpose === 'create' && object === 'lead')
    schema.required = (schema.required as string[]).filter((key) => !FILLED_IN.includes(key));
  return schema;
}

const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: Json) => ({ 'application/json': { schema } });
const problem = {
  description: 'What went wrong and what to do',
  content: { 'application/problem+json': { schema: ref('Problem') } },
};
const refusals = (...statuses: number[]) => Object.fromEntries(statuses.map((status) => [status, problem]));

const id = { name: 'id', in: 'path', required: true, schema: { type: 'integer', minimum: 1 } };
const ifMatch = {
  name: 'If-Match',
  in: 'header',
  required: true,
  description: 'The version the change was made against, as in the ETag of the record.',
  schema: { type: 'string' },
  example: '"3"',
};
const idempotencyKey = {
  name: 'Idempotency-Key',
  in: 'header',
  description:
    'Names the request: the same key again has no second effect and is answered as the first time.',
  schema: { type: 'string', minLength: 1, maxLength: 200 },
};

const inQuery = (name: string, description: string, schema: Json) => ({
  name,
  in: 'query',
  description,
  schema,
});
const listParameters = [
  inQuery('limit', 'Records of a page.', {
    type: 'integer',
    minimum: 1,
    maximum: LONGEST_PAGE,
    default: PAGE,
  }),
  inQuery('cursor', 'Where the page begins: `next` of the page before.', { type: 'string' }),
  inQuery('columns', 'Fields to answer, with commas between; all of its own when left out.', {
    type: 'string',
  }),
  inQuery('sort', 'Fields, with commas between; one with a minus before it the other way round.', {
    type: 'string',
  }),
  inQuery('where', 'A condition of a question, as JSON.', { type: 'string' }),
  {
    ...inQuery('filter', 'Fields by name, each with the value it is to have.', {
      type: 'object',
      additionalProperties: { type: 'string' },
    }),
    style: 'form',
    explode: true,
  },
];

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The routes of one kind of record. */
function routesOf(object: ObjectKey, address: string): Json {
  const { label, plural, path, category } = objectType(object);
  const name = capital(object);
  const tags = [plural];
  const writtenAnswer = { description: 'What was written', content: json(ref(`${name}Written`)) };
  const example = object === 'lead' ? { example: exampleLead } : {};
  const create = {
    summary: `Create a ${label.toLowerCase()}`,
    ...(object === 'lead'
      ? {
          description: `Without an owner the assignment rules or the token’s person get it.\n\n    curl -X POST ${address}/api/v1/leads \\\n      -H 'Authorization: Bearer YOUR_TOKEN' \\\n      -H 'Content-Type: application/json' \\\n      -H 'Idempotency-Key: website-4711' \\\n      -d '${JSON.stringify(exampleLead)}'`,
        }
      : {}),
    tags,
    parameters: [idempotencyKey],
    requestBody: {
      required: true,
      content: { 'application/json': { schema: ref(`${name}New`), ...example } },
    },
    responses: { 201: writtenAnswer, ...refusals(401, 403, 422) },
  };
  return {
    [`/${path}`]: {
      get: {
        summary: `List ${plural.toLowerCase()}, a page at a time`,
        description:
          'Any field filters, also behind links (account.country=GB); several values of a choice stand with commas between.',
        tags,
        parameters: listParameters,
        responses: {
          200: { description: plural, content: json(ref(`${name}Page`)) },
          ...refusals(400, 401, 403, 422),
        },
      },
      post: create,
    },
    [`/${path}/{id}`]: {
      parameters: [id],
      get: {
        summary: `Read a ${label.toLowerCase()}`,
        tags,
        responses: {
          200: { description: label, content: json(ref(`${name}Answer`)) },
          ...refusals(401, 404),
        },
      },
      patch: {
        summary: `Change fields of a ${label.toLowerCase()}`,
        tags,
        parameters: [ifMatch, idempotencyKey],
        requestBody: { required: true, content: json(ref(`${name}Change`)) },
        responses: { 200: writtenAnswer, ...refusals(401, 403, 404, 409, 422, 428) },
      },
      delete: {
        summary:
          category === 'work' ? `Put a ${label.toLowerCase()} in the bin` : `Delete a ${label.toLowerCase()}`,
        tags,
        parameters: [ifMatch],
        responses: {
          200: { description: 'It is in the bin, and can be brought back' },
          ...refusals(401, 403, 404, 409, 428),
        },
      },
    },
  };
}

const integer = { type: 'integer' };
const text = { type: 'string' };

/** A record as it is answered: its own fields with what every record has. */
function recordOf(object: ObjectKey, catalogue: Catalogue): Json {
  const head = { id: integer, version: integer, createdAt: text, updatedAt: text };
  const fields = fieldsOf(catalogue, object).map(([key, field]) => [key, described(field)]);
  return {
    type: 'object',
    properties: { ...head, ...Object.fromEntries(fields) },
    required: Object.keys(head),
  };
}

function schemasOf(object: ObjectKey, catalogue: Catalogue, locale: Locale): Json {
  const name = capital(object);
  const answer = {
    type: 'object',
    properties: { record: ref(name), names: { type: 'object' } },
    required: ['record'],
  };
  const writtenRecord = {
    type: 'object',
    description: 'The unit can be undone by POST /units/{unit}/undo.',
    properties: { unit: integer, label: text, value: ref(name) },
    required: ['unit', 'label', 'value'],
  };
  return {
    [name]: recordOf(object, catalogue),
    [`${name}New`]: valuesOf(object, 'create', catalogue, locale),
    [`${name}Change`]: valuesOf(object, 'change', catalogue, locale),
    [`${name}Answer`]: answer,
    [`${name}Written`]: writtenRecord,
    [`${name}Page`]: {
      type: 'object',
      properties: {
        rows: { type: 'array', items: { type: 'object' } },
        next: {
          type: ['string', 'null'],
          description: 'The cursor of the page that follows; null at the end.',
        },
        total: integer,
        names: { type: 'object', description: 'The names behind links, by object and id.' },
      },
      required: ['rows', 'next', 'total'],
    },
  };
}

/** What a question is sent in, with the part that is the question named. */
function asking(rule: Schema, named: Json): Json {
  const schema = parse(rule, DIALECT) as Json;
  return { ...schema, properties: { ...(schema.properties as Json), ...named } };
}

const questionRoute = (summary: string, body: Json, answer: string) => ({
  post: {
    summary,
    tags: ['Questions'],
    requestBody: { required: true, content: json(body) },
    responses: { 200: { description: answer, content: json({ type: 'object' }) }, ...refusals(401, 422) },
  },
});

const question = {
  type: 'object',
  description: 'A question: version 1, the object, and what is asked of it.',
  properties: {
    version: { const: 1 },
    object: { enum: objectKeys },
    where: {
      type: 'object',
      description: 'A condition, or a group of them: {join: all | any | none, of: […]}',
    },
    columns: { type: 'array', items: text },
    sort: { type: 'array', items: { type: 'object' } },
    groups: { type: 'array', items: { type: 'object' } },
    measures: { type: 'array', items: { type: 'object' } },
  },
  required: ['version', 'object'],
};

const problemSchema = {
  type: 'object',
  description: 'RFC 9457',
  properties: {
    type: text,
    title: text,
    status: integer,
    detail: text,
    faults: { type: 'array', items: { type: 'object', properties: { field: text, message: text } } },
  },
  required: ['type', 'title', 'status', 'detail'],
};

/** What only a feature makes, from an email or from what is streamed in: a program cannot write it as it is. */
const madeByFeatures: readonly string[] = ['mail', 'file', 'detail'];
/** Objects a program has business with. */
const offered = objectKeys.filter(
  (object) => objectType(object).category === 'work' && !madeByFeatures.includes(object),
);

const together = (parts: readonly Json[]): Json =>
  Object.fromEntries(parts.flatMap((part) => Object.entries(part)));

/** The API as an OpenAPI document, made from the catalogue and the rules that values are checked by. */
export function describeApi(catalogue: Catalogue, locale: Locale, address: string, version: string): Json {
  const paths = offered.map((object) => routesOf(object, address));
  const schemas = offered.map((object) => schemasOf(object, catalogue, locale));
  return {
    openapi: '3.1.0',
    info: { title: 'Zawn', version, description: 'Leads, people, deals and promises for a sales team.' },
    servers: [{ url: `${address}/api/v1` }],
    security: [{ token: [] }],
    paths: {
      ...together(paths),
      '/questions/records': questionRoute(
        'The records that answer a question, a page at a time',
        asking(recordsBody, { question: ref('Question') }),
        'Rows, their total, the names behind links, and the cursor of the next page',
      ),
      '/questions/figures': questionRoute(
        'The figures that answer questions, a row a group',
        asking(figuresBody, { questions: { type: 'array', items: ref('Question') } }),
        'One answer a question, in their order',
      ),
      '/search': {
        get: {
          summary: 'Records by a few typed letters',
          tags: ['Questions'],
          parameters: [{ name: 'q', in: 'query', required: true, schema: { ...text, maxLength: 100 } }],
          responses: {
            200: { description: 'The likeliest first', content: json({ type: 'object' }) },
            ...refusals(401),
          },
        },
      },
    },
    components: {
      securitySchemes: { token: { type: 'http', scheme: 'bearer', description: 'A personal token' } },
      schemas: { ...together(schemas), Question: question, Problem: problemSchema },
    },
  };
}
