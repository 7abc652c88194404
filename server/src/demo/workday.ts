import { addDays, weekdayOf, type Day } from '@zawn/core';

/** Work happens on working days: the same day, or the Monday after. */
export function workday(day: Day): Day {
  const weekday = weekdayOf(day);
  if (weekday === 6) return addDays(day, 2);
  return weekday === 0 ? addDays(day, 1) : day;
}
