import { type FieldValue } from '../catalogue';
import { type Day } from '../../platform/time';
import { stoodBefore, type LoggedRecord, type Stood } from './as-it-stood';

/** The day before which something lies that has not ended. */
export const NO_END: Day = '9999-12-31';

/** How a record stood at the end of each day from one to before another. */
export interface DayEnds {
  from: Day;
  /** The first day at whose end it was otherwise, or was not there; `NO_END` where there is none. */
  to: Day;
  values: Record<string, FieldValue>;
}

/**
 * How a record stood at the end of each day up to one; days alike are put together, and those at whose end it was not
 * there are left out. Source: its present values with every change taken back.
 * @param record with all of its changes.
 */
export function dayEndsOf(
  record: LoggedRecord,
  fields: readonly string[],
  through: Day,
  dayOf: (instant: string) => Day,
): DayEnds[] {
  const { before, steps } = stoodBefore(record);
  const created = dayOf(record.now.createdAt);
  // Of one day the last is how it ended.
  const evenings = new Map<Day, Stood>([[created, before]]);
  for (const { at, after } of steps) {
    const day = dayOf(at);
    evenings.set(day < created ? created : day, after);
  }
  const found: DayEnds[] = [];
  let open: DayEnds | undefined;
  for (const [from, stood] of evenings) {
    if (from > through) break;
    const values = stood && Object.fromEntries(fields.map((field) => [field, stood[field] ?? null]));
    if (open && values && fields.every((field) => open?.values[field] === values[field])) continue;
    if (open) open.to = from;
    open = values && { from, to: NO_END, values };
    if (open) found.push(open);
  }
  return found;
}
