import { type Schema } from 'joi';
import { checkAgainst } from '@zawn/core/validation';
import { invalidInput } from './problem';

/**
 * A request body checked against a Joi schema.
 * @throws Problem `invalid-input` with every fault.
 */
export function checked<T>(schema: Schema<T>, body: unknown): T {
  const { value, faults } = checkAgainst(schema, body ?? {});
  if (value === undefined) throw invalidInput(faults);
  return value;
}
