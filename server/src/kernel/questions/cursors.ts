import { createHash } from 'node:crypto';
import Joi from 'joi';
import { type Question } from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { type PageEnds } from './gate';
import { type PlaceValue } from './sql-order';
import { type BesidePlace } from './to-sql';

export const LONGEST_CURSOR = 100_000;

/** By what a question puts its answer in order: a place in one order is none in another. */
const orderOf = ({ object, sort = [] }: Question) =>
  createHash('sha256')
    .update(JSON.stringify([object, sort]))
    .digest('base64url')
    .slice(0, 12);

/** Where a page goes on, as callers hand it back; they need not know what it is made of. */
const cursorOf = (question: Question, from: BesidePlace | null): string | null =>
  from && Buffer.from(JSON.stringify([orderOf(question), from.side, ...from.place])).toString('base64url');

/** A page as callers get it, with cursors to go on from it in either direction. */
export const withCursors = <T extends PageEnds>(question: Question, page: T) => ({
  ...page,
  next: cursorOf(question, page.next),
  previous: cursorOf(question, page.previous),
});

type Cursor = [order: string, side: BesidePlace['side'], ...place: PlaceValue[]];

const cursors = Joi.array<Cursor>()
  .ordered(Joi.string().required(), Joi.string().valid('behind', 'before').required())
  .items(Joi.string().allow(''), Joi.number().unsafe(), null)
  .min(3)
  .max(40) as Joi.Schema<Cursor>;

/** @throws Problem `malformed-request` for a cursor that no page of this question was answered with. */
export function placeIn(question: Question, cursor: string | undefined): BesidePlace | undefined {
  if (cursor === undefined) return undefined;
  try {
    const raw: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8'));
    const [order, side, ...place] = checked(cursors, raw);
    if (order === orderOf(question)) return { side, place };
  } catch {
    // Said below.
  }
  throw new Problem(
    'malformed-request',
    'This cursor is not one that a page of this question was answered with.',
  );
}
