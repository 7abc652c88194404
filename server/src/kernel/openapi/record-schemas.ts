import parse from 'joi-to-json';
import { type Schema } from 'joi';
import {
  fieldsOf,
  objectType,
  partsOf,
  type Catalogue,
  type Field,
  type FieldType,
  type ObjectKey,
} from '@zawn/core';
import { recordSchema, type Locale } from '@zawn/core/validation';

export type Json = Record<string, unknown>;

const DIALECT = 'open-api-3.1';

/** How a schema begins that is named for an object. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** A schema of the description by its name. */
export const ref = (name: string): Json => ({ $ref: `#/components/schemas/${name}` });

/** Where a schema may be no more than yes or no, which not every reader takes. */
const MAY_BE_BOOLEAN = ['then', 'else'];

/** `x-schema` in what a body is checked by names the schema of a part that the catalogue checks later. */
function withNamedParts(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withNamedParts);
  if (typeof schema !== 'object' || schema === null) return schema;
  const name = (schema as Json)['x-schema'];
  if (typeof name === 'string') return ref(name);
  return Object.fromEntries(
    Object.entries(schema).map(([key, part]) => {
      if (MAY_BE_BOOLEAN.includes(key) && typeof part === 'boolean') return [key, part ? {} : { not: {} }];
      return [key, withNamedParts(part)];
    }),
  );
}

/** What a value is checked by, as JSON schema. */
export const schemaOf = (rule: Schema): Json => withNamedParts(parse(rule, DIALECT)) as Json;

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

/** The JSON type of the values of each type of field; of the others it is text. */
const jsonTypes: Partial<Record<FieldType, Json>> = {
  number: { type: 'number' },
  percent: { type: 'number' },
  money: { type: 'integer' },
  link: { type: 'integer' },
  yesNo: { type: 'boolean' },
  choices: { type: 'array', items: { type: 'string' } },
  tags: { type: 'array', items: { type: 'string' } },
  lists: { type: 'array', items: { type: 'integer' } },
};

function described(field: Field): Json {
  const parts = [field.help, written[field.type], field.to ? `The id of a ${field.to}.` : undefined];
  const description = parts.filter(Boolean).join(' ');
  return { title: field.label, ...(description ? { description } : {}) };
}

/** The values of a record on an occasion, made from what they are checked by. */
export function valuesOf(
  object: ObjectKey,
  purpose: 'create' | 'change',
  catalogue: Catalogue,
  locale: Locale,
): Json {
  const schema = schemaOf(recordSchema({ object, purpose, setter: 'hand', locale, catalogue }));
  const properties = (schema.properties ?? {}) as Record<string, Json>;
  const fields = new Map(fieldsOf(catalogue, object));
  for (const [key, property] of Object.entries(properties)) {
    const field = fields.get(key);
    if (field) Object.assign(property, described(field));
  }
  for (const { as, object: part } of partsOf(object))
    properties[as] = {
      type: 'array',
      items: ref(`${capital(part)}${purpose === 'create' ? 'New' : 'Change'}`),
    };
  if (purpose === 'create' && object === 'lead')
    schema.required = (schema.required as string[]).filter((key) => !FILLED_IN.includes(key));
  return schema;
}

/** A value of a field as it is answered. */
function answered(field: Field): Json {
  const { type, ...rest } = jsonTypes[field.type] ?? { type: 'string' };
  return { ...rest, type: field.required ? type : [type, 'null'], ...described(field) };
}

/** A record as it is answered: its own fields with what every record has. */
export function recordOf(object: ObjectKey, catalogue: Catalogue): Json {
  const head = {
    id: { type: 'integer' },
    version: { type: 'integer' },
    createdAt: { type: 'string' },
    updatedAt: { type: 'string' },
  };
  const fields = fieldsOf(catalogue, object).map(([key, field]) => [key, answered(field)]);
  return {
    description: objectType(object).label,
    type: 'object',
    properties: { ...head, ...Object.fromEntries(fields) },
    required: Object.keys(head),
  };
}
