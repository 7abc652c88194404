import { type Condition } from '@zawn/core';
import { parseJson } from '../../platform/http/json-shape';
import { invalidInput, Problem } from '../../platform/http/problem';

/**
 * A condition that is kept as JSON.
 * @throws Problem `invalid-input` when it is none.
 */
export function parsedCondition(text: unknown): Condition {
  try {
    return parseJson(String(text)) as Condition;
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw invalidInput([{ field: 'condition', message: 'Condition is not JSON' }]);
  }
}
