import { SetMetadata } from '@nestjs/common';
import { type ObjectKey } from '@zawn/core';

/** What a route says of itself for the API's description, where its parameters and types do not. */
export const GIVES = 'gives';
export const READS = 'reads';
export const VALUES = 'values';

/** Marks a route that answers with a file of one of these media types. */
export const Gives = (...mediaTypes: [string, ...string[]]) => SetMetadata(GIVES, mediaTypes);

/** A header that a route reads. */
export type ReadHeader = 'If-Match' | 'Idempotency-Key';

/** Notes on a route that a parameter of its handler comes from a header. */
export const reads =
  (header: ReadHeader): ParameterDecorator =>
  (controller, key) => {
    const handler = (controller as Record<string | symbol, object>)[key as string];
    const known = (Reflect.getMetadata(READS, handler) ?? []) as ReadHeader[];
    Reflect.defineMetadata(READS, [...known, header], handler);
  };

/** Values of a record in the body of a request: they are checked against the catalogue as it is at the time. */
export interface RecordValues {
  purpose: 'create' | 'change';
  /** The object, where the address does not say it. */
  object?: ObjectKey;
}

/** Marks a route that takes values of a record. */
export const TakesValues = (values: RecordValues) => SetMetadata(VALUES, values);
