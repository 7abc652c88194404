import { type Checked } from '@zawn/core/validation';
import { parseJson } from '../../platform/http/json-shape';
import { invalidInput, Problem } from '../../platform/http/problem';

/**
 * A field that holds JSON, checked and written in one form.
 * @param what how the field is called in a complaint.
 * @throws Problem `invalid-input` that names the place within it.
 */
export function checkedJson<T>(
  text: unknown,
  field: string,
  what: string,
  check: (raw: unknown) => Checked<T>,
): { text: string; value: T } {
  let raw: unknown;
  try {
    raw = parseJson(String(text));
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw invalidInput([{ field, message: `${what} must be JSON` }]);
  }
  const { value, faults } = check(raw);
  if (value === undefined)
    throw invalidInput(
      faults.map((fault) => ({
        field: fault.field ? `${field}.${fault.field}` : field,
        message: fault.message,
      })),
    );
  return { text: JSON.stringify(value), value };
}
