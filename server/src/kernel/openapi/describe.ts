import { objectKeys, objectOfPath, objectType, type Catalogue, type ObjectKey } from '@zawn/core';
import { type Locale } from '@zawn/core/validation';
import { LONGEST_PAGE, PAGE } from '../questions/questions.controller';
import { capital, recordOf, ref, schemaOf, valuesOf, type Json } from './record-schemas';
import routeTypes from './route-types.json';
import { type Parameter, type Route } from './routes';

/** What a lead takes at least, as an example that can be sent as it is. */
export const exampleLead = {
  name: 'Runa Seagrave',
  organisation: 'Seagrave Harbour Trust',
  email: 'runa@seagrave.example',
  phone: '+44 1632 960123',
  interest: 'Two tide gauges',
  source: 'website',
};

interface Said {
  summary: string;
  description?: string;
  answer?: Json & { $ref?: string };
}
const said = routeTypes.handlers as Record<string, Said | undefined>;

const small = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

const problem = {
  description: 'What went wrong and what to do',
  content: { 'application/problem+json': { schema: ref('ProblemBody') } },
};

const headers = {
  'If-Match': {
    name: 'If-Match',
    in: 'header',
    required: true,
    description: 'The version the change was made against, as in the ETag of the record.',
    schema: { type: 'string' },
    example: '"3"',
  },
  'Idempotency-Key': {
    name: 'Idempotency-Key',
    in: 'header',
    description:
      'Names the request: the same key again has no second effect and is answered as the first time; with another body it is refused.',
    schema: { type: 'string', minLength: 1, maxLength: 200 },
  },
} as const;

const inQuery = (name: string, description: string, schema: Json) => ({
  name,
  in: 'query',
  description,
  schema,
});
const text = { type: 'string' };

/** How a list is asked for: every field of its records filters. */
const listParameters = [
  inQuery('limit', 'Records of a page.', {
    type: 'integer',
    minimum: 1,
    maximum: LONGEST_PAGE,
    default: PAGE,
  }),
  inQuery('cursor', 'Where the page begins: `next` of the page before.', text),
  inQuery('columns', 'Fields to answer, with commas between; all of its own when left out.', text),
  inQuery('sort', 'Fields, with commas between; one with a minus before it the other way round.', text),
  inQuery('where', 'A condition of a question, as JSON.', text),
  {
    ...inQuery(
      'filter',
      'Fields by name, each with the value it is to have, also behind links: account.country=GB. Several values of a choice stand with commas between.',
      { type: 'object', additionalProperties: text },
    ),
    style: 'form',
    explode: true,
  },
];

function parametersOf(route: Route): Json[] {
  const named = route.parameters.map(({ name, in: place, isId, schema }: Parameter): Json => ({
    name,
    in: place,
    required: place === 'path',
    schema: schema ? schemaOf(schema) : isId ? { type: 'integer', minimum: 1 } : text,
  }));
  const { properties = {}, required = [] } = (route.query ? schemaOf(route.query) : {}) as {
    properties?: Record<string, Json>;
    required?: string[];
  };
  const checked = Object.entries(properties).map(([name, schema]): Json => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }));
  return [
    ...named,
    ...checked,
    ...(route.takesFilters ? listParameters : []),
    ...route.headers.map((header) => headers[header]),
  ];
}

/** What a route takes in its body. */
function bodyOf(route: Route, object: ObjectKey | undefined): Json | undefined {
  if (route.takesBytes)
    return {
      required: true,
      description: 'The bytes of the file.',
      content: { 'application/octet-stream': { schema: {} } },
    };
  if (route.values) {
    const { purpose, object: named = object } = route.values;
    const schema = ref(`${capital(named ?? '')}${purpose === 'create' ? 'New' : 'Change'}`);
    const example = purpose === 'create' && named === 'lead' ? { example: exampleLead } : {};
    return { required: true, content: { 'application/json': { schema, ...example } } };
  }
  if (!route.body) return undefined;
  const isNeeded = route.body.validate({}).error !== undefined;
  return { required: isNeeded, content: { 'application/json': { schema: schemaOf(route.body) } } };
}

/** Answers about records of any object, in the fields of the one that a route is about. */
const ABOUT_RECORDS = ['RecordAnswer', 'WrittenAnyRecord'];

function answerOf(route: Route, object: ObjectKey | undefined): Json {
  const answer = said[route.handler]?.answer;
  const description = route.status === 204 ? 'Done; there is nothing to say' : 'What was asked for';
  if (route.gives)
    return { description: 'A file', content: Object.fromEntries(route.gives.map((type) => [type, {}])) };
  if (!answer) return { description };
  const name = (answer.$ref ?? '').replace(/^.*\//, '');
  const isOwn = object && route.path.startsWith('/v1/:objects') && !route.path.includes(':id/');
  const schema =
    isOwn && ABOUT_RECORDS.includes(name)
      ? ref(`${capital(object)}${name.replace('AnyRecord', '')}`)
      : answer;
  return { description, content: { 'application/json': { schema } } };
}

/** The statuses of a request that goes wrong. */
function refusalsOf(route: Route): number[] {
  const isWriting = route.method !== 'get';
  const isChecked = route.parameters.some(({ schema }) => schema);
  return [
    400,
    ...(route.isPublic ? [] : [401, 403]),
    ...(route.parameters.some(({ in: place }) => place === 'path') ? [404] : []),
    ...(isWriting ? [409, 413, 415] : []),
    ...(isWriting || route.query || route.takesFilters || isChecked ? [422] : []),
    ...(route.headers.includes('If-Match') ? [428] : []),
    ...(route.isPublic && isWriting ? [429] : []),
  ];
}

/** Who a request may come from: a program with a token of these scopes, or a browser in which somebody is signed in. */
function securityOf({ isPublic, scopes, method }: Route): Json[] {
  if (isPublic) return [];
  const browser = method === 'get' ? { session: [] } : { session: [], csrf: [] };
  return [...(scopes.length > 0 ? [{ token: scopes }] : []), browser];
}

const CURL = (address: string) =>
  `curl -X POST ${address}/api/v1/leads \\\n      -H 'Authorization: Bearer YOUR_TOKEN' \\\n      -H 'Content-Type: application/json' \\\n      -H 'Idempotency-Key: website-4711' \\\n      -d '${JSON.stringify(exampleLead)}'`;

/** What is said of a route, with who may use it. */
function wordsOf(route: Route, object: ObjectKey | undefined, address: string): Json {
  const words = said[route.handler];
  if (!words) throw new Error(`${route.handler} is not in route-types.json. Run npm run route-types.`);
  const { label, plural } = object ? objectType(object) : { label: '', plural: '' };
  const summary = words.summary
    .replace(/^Records of an object/, plural)
    .replace(
      /\ba record\b/i,
      (found) => `${found.startsWith('A') ? 'A' : 'a'} ${label.toLowerCase() || 'record'}`,
    );
  const description = [
    words.description,
    route.act ? 'Only for people whose role allows it.' : undefined,
    route.handler === 'LeadsController.create'
      ? `Without an owner the assignment rules or the token’s person get it.\n\n    ${CURL(address)}`
      : undefined,
  ].filter(Boolean);
  return { summary, ...(description.length > 0 ? { description: description.join(' ') } : {}) };
}

/** What routes are gathered under: the object they are about, or the first word of their address. */
function tagOf(path: string): string {
  const [, , noun] = path.split('/');
  const object = objectOfPath(noun);
  return object ? objectType(object).plural : capital((noun ?? path.slice(1)).replaceAll('-', ' '));
}

/** Whether values of an object are sent: a part goes with its owner, and some only a feature makes, from an email or a file. */
const isSent = (object: ObjectKey): boolean => {
  const { category, ownedBy } = objectType(object);
  return category !== 'log' && !ownedBy && !['mail', 'file', 'contactSuggestion'].includes(object);
};

interface Operation {
  path: string;
  route: Route;
  object?: ObjectKey;
}

/** The operations of a route: one, or one for each object that it is about. */
function operationsOf(route: Route): Operation[] {
  if (!route.objects) return [{ path: route.path, route }];
  const objects = route.objects === 'all' ? objectKeys : route.objects;
  return objects
    .filter((object) => !route.values || isSent(object))
    .map((object) => ({ path: route.path.replace(':objects', objectType(object).path), route, object }));
}

function operationId({ route: { handler }, object }: Operation): string {
  const [controller, name] = handler.split('.');
  const noun = controller.replace(/Controller$/, '');
  const base = object ? `${objectType(object).path}${noun === 'Records' ? '' : noun}` : small(noun);
  return base.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase()) + capital(name);
}

const addressOf = (path: string) => path.replace(/:(\w+)/g, '{$1}');

/** The paths of the document. A route of an object's own stands in the place of the one that all objects have. */
function pathsOf(routes: readonly Route[], address: string): { paths: Json; tags: string[] } {
  const all = routes.flatMap(operationsOf);
  const key = ({ path, route }: Operation) => `${route.method} ${path}`;
  const own = new Set(all.filter(({ object }) => !object).map(key));
  const paths: Record<string, Json> = {};
  const tags = new Set<string>();
  for (const operation of all) {
    if (operation.object && own.has(key(operation))) continue;
    const { path, route, object } = operation;
    const [parameters, body] = [parametersOf(route), bodyOf(route, object)];
    tags.add(tagOf(path));
    const item = (paths[addressOf(path)] ??= {});
    item[route.method] = {
      operationId: operationId(operation),
      ...wordsOf(route, object, address),
      tags: [tagOf(path)],
      security: securityOf(route),
      ...(parameters.length > 0 ? { parameters } : {}),
      ...(body ? { requestBody: body } : {}),
      responses: {
        [route.status]: answerOf(route, object),
        ...Object.fromEntries(refusalsOf(route).map((status) => [status, problem])),
        default: problem,
      },
    };
  }
  return { paths, tags: [...tags].sort() };
}

/** The schemas of the records of an object, in the organisation's own fields. */
function schemasOf(object: ObjectKey, catalogue: Catalogue, locale: Locale): Json {
  const name = capital(object);
  const { RecordAnswer, WrittenAnyRecord } = routeTypes.schemas;
  const inOwnFields = (schema: { properties: object }, field: string) => ({
    ...schema,
    properties: { ...schema.properties, [field]: ref(name) },
  });
  return {
    [name]: recordOf(object, catalogue),
    [`${name}New`]: valuesOf(object, 'create', catalogue, locale),
    [`${name}Change`]: valuesOf(object, 'change', catalogue, locale),
    [`${name}RecordAnswer`]: inOwnFields(RecordAnswer, 'record'),
    [`${name}Written`]: inOwnFields(WrittenAnyRecord, 'value'),
  };
}

/** The schemas that are referred to, from the paths or from one another. */
function onlyUsed(paths: Json, schemas: Record<string, unknown>): Json {
  const used = new Set<string>();
  const look = (part: unknown) => {
    for (const [, name] of JSON.stringify(part).matchAll(/"#\/components\/schemas\/(\w+)"/g))
      if (!used.has(name)) {
        used.add(name);
        look(schemas[name] ?? {});
      }
  };
  look(paths);
  return Object.fromEntries(Object.entries(schemas).filter(([name]) => used.has(name)));
}

/**
 * The API as an OpenAPI 3.1 document, made from the routes of the running application, the catalogue, and the schemas
 * that values are checked by.
 */
export function describeApi(
  routes: readonly Route[],
  catalogue: Catalogue,
  { locale, address, version }: { locale: Locale; address: string; version: string },
): Json {
  const { paths, tags } = pathsOf(routes, address);
  const records = objectKeys.map((object) => schemasOf(object, catalogue, locale));
  const schemas = Object.assign({}, routeTypes.schemas, ...records) as Record<string, unknown>;
  return {
    openapi: '3.1.0',
    info: {
      title: 'Zawn',
      version,
      description: 'Leads, people, deals and promises for a sales team.',
      license: { name: 'MIT', identifier: 'MIT' },
    },
    servers: [{ url: `${address}/api` }],
    tags: tags.map((name) => ({ name, description: `What is read and done under ${name.toLowerCase()}.` })),
    paths,
    components: {
      securitySchemes: {
        token: {
          type: 'http',
          scheme: 'bearer',
          description: 'A token of one’s own. The scopes with which it may be used stand at each route.',
        },
        session: {
          type: 'apiKey',
          in: 'cookie',
          name: 'zawn_session',
          description: 'The browser in which somebody is signed in.',
        },
        csrf: {
          type: 'apiKey',
          in: 'header',
          name: 'X-CSRF-Token',
          description: 'What the session answered with; asked of a browser that writes.',
        },
      },
      schemas: onlyUsed(paths, schemas),
    },
  };
}
