import { hoursFault, isTimeZone } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { type Values } from '../records/values';

/**
 * Refuses hours that end before they begin, and a time zone that is none.
 * @param next what is about to be written on top of what was there before.
 */
export function checkHours(next: Values, before: Values | undefined): void {
  const fault = hoursFault({ ...before, ...next });
  if (fault !== undefined) throw invalidInput([{ field: 'opens', message: fault }]);
  if (typeof next.timeZone === 'string' && !isTimeZone(next.timeZone))
    throw invalidInput([{ field: 'timeZone', message: 'Time zone: this is none, such as Europe/London' }]);
}
