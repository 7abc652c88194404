import { Body, Param, Query, type PipeTransform } from '@nestjs/common';
import { type Schema } from 'joi';
import { objectOfPath, type ObjectKey } from '@zawn/core';
import { checkAgainst } from '@zawn/core/validation';
import { invalidInput, Problem } from './problem';
import { recordId } from './record-id';

/**
 * A value checked against a Joi schema.
 * @throws Problem `invalid-input` with every fault.
 */
export function checked<T>(schema: Schema<T>, given: unknown): T {
  const { value, faults } = checkAgainst(schema, given ?? {});
  if (value === undefined) throw invalidInput(faults);
  return value;
}

/** What a schema makes of a value that it lets through. */
export type CheckedAs<S> = S extends Schema<infer Checked> ? Checked : never;

/** Checks a part of a request. The API's description reads the same schema. */
export class CheckedBy implements PipeTransform {
  constructor(readonly schema: Schema) {}

  transform(given: unknown): unknown {
    return checked(this.schema as Schema<unknown>, given);
  }
}

/** Turns the text of an id into a number; a parameter that may be left out stays undefined. */
export class ToRecordId implements PipeTransform {
  transform(text: string | undefined): number | undefined {
    return text === undefined ? undefined : recordId(text);
  }
}

/** Turns the noun of an address, `leads`, into its object. */
export class ToObject implements PipeTransform {
  /** @param objects those that the route is about; all when left out. */
  constructor(readonly objects?: readonly ObjectKey[]) {}

  transform(noun: string): ObjectKey {
    const object = objectOfPath(noun);
    if (!object || this.objects?.includes(object) === false)
      throw new Problem('not-found', 'There is nothing at this address.');
    return object;
  }
}

/** The body of a request, checked against a schema. */
export const CheckedBody = (schema: Schema) => Body(new CheckedBy(schema));

/** The parameters after the question mark, checked against a schema. */
export const CheckedQuery = (schema: Schema) => Query(new CheckedBy(schema));

/** The id of a record in the address. */
export const RecordId = (name = 'id') => Param(name, new ToRecordId());

/** The id that a page of a list goes on behind; undefined for the first page. */
export const Before = () => Query('before', new ToRecordId());

/** The object that the noun of an address means, one of these or any. */
export const ObjectAt = (objects?: readonly ObjectKey[]) => Param('objects', new ToObject(objects));
