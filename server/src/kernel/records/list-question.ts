import Joi from 'joi';
import {
  fieldAt,
  objectType,
  type Catalogue,
  type Condition,
  type Field,
  type ObjectKey,
  type Sort,
} from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { invalidInput } from '../../platform/http/problem';
import { LONGEST_CURSOR } from '../questions/cursors';
import { LONGEST_PAGE, PAGE } from '../questions/questions.controller';

/** What the address of a list says beside the fields it is filtered by. */
export interface ListQuery {
  /** A condition of a question, as JSON. */
  where?: string;
  /** Paths of fields, with commas between. */
  columns?: string;
  /** Paths of fields, with commas between; one with a minus before it is put in order the other way round. */
  sort?: string;
  cursor?: string;
  limit: number;
}

const texts = Joi.string().max(10_000);
const known = Joi.object<ListQuery>({
  where: texts,
  columns: texts,
  sort: texts,
  cursor: Joi.string().max(LONGEST_CURSOR),
  limit: Joi.number().integer().min(1).max(LONGEST_PAGE).default(PAGE),
});

/** @throws Problem `invalid-input` for what is no number. */
function numberIn(name: string, text: string): number {
  const number = Number(text);
  if (text.trim() === '' || Number.isNaN(number))
    throw invalidInput([{ field: name, message: `${name} is “${text}”; it must be a number` }]);
  return number;
}

const listed = (text: string) => text.split(',').map((part) => part.trim());

/** What a field is to be, as an address says it: one of several where it is a choice, a link or tags. */
function testOf(field: Field | undefined, path: string, text: string): Condition {
  switch (field?.type) {
    case 'choice':
    case 'choices':
    case 'tags':
    case 'country':
    case 'currency':
      return { field: path, is: 'anyOf', value: listed(text) };
    case 'link':
    case 'lists':
      return { field: path, is: 'anyOf', value: listed(text).map((id) => numberIn(path, id)) };
    case 'yesNo':
      if (text !== 'true' && text !== 'false')
        throw invalidInput([{ field: path, message: `${path} is “${text}”; it must be true or false` }]);
      return { field: path, is: 'is', value: text === 'true' };
    case 'number':
    case 'percent':
    case 'money':
      return { field: path, is: 'is', value: numberIn(path, text) };
    case 'text':
    case 'email':
    case 'phone':
    case 'web':
      return { field: path, is: 'is', value: text };
    default:
      throw invalidInput([
        {
          field: path,
          message: field
            ? `${field.label} cannot be asked for like this. Use where, with a condition as JSON`
            : `There is no field ${path} to ask for`,
        },
      ]);
  }
}

function conditionIn(json: string): Condition {
  try {
    return JSON.parse(json) as Condition;
  } catch {
    throw invalidInput([{ field: 'where', message: 'Where must be a condition as JSON' }]);
  }
}

/**
 * What a list is asked for by its address: `/api/v1/leads?status=working&sort=-createdAt&columns=name,email`.
 * @returns the question, not checked yet, and which page of its answer is meant.
 * @throws Problem `invalid-input` naming the parameter that cannot be understood.
 */
export function listQuestion(
  catalogue: Catalogue,
  object: ObjectKey,
  query: Readonly<Record<string, unknown>>,
): { question: object; page: Pick<ListQuery, 'cursor' | 'limit'> } {
  const names = ['where', 'columns', 'sort', 'cursor', 'limit'];
  const asked = Object.entries(query);
  const { where, columns, sort, ...page } = checked(
    known,
    Object.fromEntries(
      asked
        .filter(([name]) => names.includes(name))
        .map(([name, text]) => [name, name === 'limit' ? numberIn(name, String(text)) : text]),
    ),
  );
  const { label } = objectType(object);
  const tests = asked
    .filter(([name]) => !names.includes(name))
    .map(([path, text]) => {
      if (typeof text !== 'string')
        throw invalidInput([{ field: path, message: `${label}: ask for ${path} once` }]);
      return testOf(fieldAt(catalogue, object, path), path, text);
    });
  const conditions = [...tests, ...(where === undefined ? [] : [conditionIn(where)])];
  const order = (sort === undefined ? [] : listed(sort)).map((path): Sort =>
    path.startsWith('-') ? { field: path.slice(1), descending: true } : { field: path },
  );
  return {
    question: {
      version: 1,
      object,
      ...(conditions.length > 0 ? { where: { join: 'all', of: conditions } } : {}),
      ...(columns === undefined ? {} : { columns: listed(columns) }),
      ...(order.length > 0 ? { sort: order } : {}),
    },
    page,
  };
}
