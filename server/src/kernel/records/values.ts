import { type FieldValue } from '@zawn/core';

/** Values of a record by field, as they are about to be written. */
export type Values = Record<string, FieldValue>;
