import { periodOf, type Day } from '@zawn/core';
import { ORGANISATION } from './company';
import { type Book } from './book';
import { type Random } from './random';

/** Weeks that lie behind. */
const WEEKS = 11;

/** How ready for reports what each rep owns was in the last weeks: a little more each week. */
export function rememberReadiness(book: Book, random: Random, today: Day): void {
  const { fiscalYearStart, weekStart } = ORGANISATION;
  const reps = book.rows('person').filter(({ role }) => role === 'rep');
  for (const { id } of reps) {
    const asked = random.int(260, 420);
    const [from, gain] = [0.8 + random.unit() * 0.06, 0.004 + random.unit() * 0.003];
    for (let ago = WEEKS; ago > 0; ago -= 1) {
      const share = from + (WEEKS - ago) * gain + (random.unit() - 0.5) * 0.012;
      const week = periodOf('week', today, { fiscalYearStart, weekStart }, -ago).from;
      book.put('upkeepWeek', { week, owner: Number(id), asked, held: Math.round(asked * share) });
    }
  }
}
