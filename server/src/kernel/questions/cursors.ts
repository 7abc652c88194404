import { createHash } from 'node:crypto';
import Joi from 'joi';
import { type Question } from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { type PlaceValue } from './to-sql';

export const LONGEST_CURSOR = 100_000;

/** By what a question puts its answer in order: a place in one order is none in another. */
const orderOf = ({ object, sort = [] }: Question) =>
  createHash('sha256')
    .update(JSON.stringify([object, sort]))
    .digest('base64url')
    .slice(0, 12);

/** Where the next page begins, as callers hand it back; they need not know what it is made of. */
export const cursorOf = (question: Question, place: readonly PlaceValue[]): string =>
  Buffer.from(JSON.stringify([orderOf(question), ...place])).toString('base64url');

const places = Joi.array<PlaceValue[]>()
  .items(Joi.string().allow(''), Joi.number().unsafe(), null)
  .min(2)
  .max(40);

/** @throws Problem `malformed-request` for a cursor that no page of this question was answered with. */
export function placeIn(question: Question, cursor: string | undefined): PlaceValue[] | undefined {
  if (cursor === undefined) return undefined;
  try {
    const raw: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8'));
    const [order, ...place] = checked(places as Joi.Schema, raw) as PlaceValue[];
    if (order === orderOf(question)) return place;
  } catch {
    // Said below.
  }
  throw new Problem(
    'malformed-request',
    'This cursor is not one that a page of this question was answered with.',
  );
}
