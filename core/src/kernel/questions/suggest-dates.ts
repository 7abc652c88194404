import { readWhen } from '../../platform/time/read-when';
import { isDay, type Day } from '../../platform/time';
import { periodInWords, relativeDayInWords } from './in-words';
import { type PastDay, type RelativeDay, type RelativePeriod, type RelativeSpan } from './question';

export type PeriodOperand = RelativePeriod | RelativeSpan;

const STEPS = [0, -1, 1];

const toDate: PeriodOperand[] = (
  ['month', 'quarter', 'year', 'fiscalQuarter', 'fiscalYear'] as const
).flatMap((unit) => [
  { unit, offset: 0, toDate: true as const },
  { unit, offset: 0, toDate: true as const, yearBefore: true as const },
  { unit, offset: 0, yearBefore: true as const },
]);

/** Periods that are asked for every day, the likeliest first. */
const usual: PeriodOperand[] = [
  ...(['fiscalQuarter', 'month', 'week', 'year', 'fiscalYear', 'quarter', 'day'] as const).flatMap((unit) =>
    STEPS.map((offset) => ({ unit, offset })),
  ),
  ...toDate,
];

const SPAN = /(?:(last|past|next|coming)\s*)?(\d{1,4})\s*(d|w|m|q|y)?[a-z]*$/;

/** Spans of so many days, weeks or months that a text may mean: `60`, `last 3 weeks`, `next 2 m`. */
function spansIn(text: string): RelativeSpan[] {
  const match = SPAN.exec(text);
  if (!match) return [];
  const count = Number(match[2]);
  if (count < 1 || count > 3650) return [];
  const letters = match[3] ? [match[3]] : ['d', 'w', 'm'];
  const directions = match[1]
    ? [match[1] === 'next' || match[1] === 'coming' ? ('next' as const) : ('last' as const)]
    : (['last', 'next'] as const);
  const unitOf = { d: 'day', w: 'week', m: 'month', q: 'quarter', y: 'year' } as const;
  return letters.flatMap((letter) =>
    directions.map((direction) => ({ direction, count, unit: unitOf[letter as keyof typeof unitOf] })),
  );
}

/** The periods that a typed text may mean; the usual ones when nothing is typed. */
export function suggestPeriods(text: string): PeriodOperand[] {
  const typed = text.trim().toLowerCase();
  if (typed === '')
    return [
      ...usual,
      { direction: 'last', count: 30, unit: 'day' },
      { direction: 'next', count: 30, unit: 'day' },
    ];
  const words = typed.split(/\s+/);
  const named = usual.filter((operand) => {
    const said = periodInWords(operand);
    return words.every((word) => said.includes(word));
  });
  const asTyped = (operand: PeriodOperand) => periodInWords(operand).replaceAll(',', '').endsWith(typed);
  return [...spansIn(typed), ...named.filter(asTyped), ...named.filter((each) => !asTyped(each))];
}

const ends: RelativePeriod[] = (
  ['month', 'quarter', 'year', 'fiscalQuarter', 'fiscalYear', 'week'] as const
).map((unit) => ({ unit, offset: -1 }));

/** The days behind us that a typed text may mean, at whose end something is asked about; the ends of periods first. */
export function suggestPastDays(text: string, today: Day): PastDay[] {
  const typed = text.trim().toLowerCase();
  const words = typed.split(/\s+/);
  const saidOf = (period: RelativePeriod) => `at the end of ${periodInWords(period)}`;
  const days = suggestDays(text, today).filter((day) =>
    typeof day === 'string' ? day <= today : day.days < 0,
  );
  const usualDays = typed === '' ? [...days, { days: -365 }] : days;
  return [...ends.filter((each) => words.every((word) => saidOf(each).includes(word))), ...usualDays];
}

/** The days that a typed text may mean: `2026-03-31`, `12 dec`, `3 days ago`, `thu`. */
export function suggestDays(text: string, today: Day): (Day | RelativeDay)[] {
  const typed = text.trim().toLowerCase();
  const usualDays = [0, -1, 1, -7, 7, -30, 30, -90, 90].map((days) => ({ days }));
  if (typed === '') return usualDays;
  const found: (Day | RelativeDay)[] = [];
  if (isDay(typed)) found.push(typed);
  const number = /^(\d{1,4})/.exec(typed);
  if (number && !isDay(typed)) found.push({ days: -Number(number[1]) }, { days: Number(number[1]) });
  found.push(...usualDays.filter((day) => relativeDayInWords(day).includes(typed)));
  const read = readWhen(typed, today);
  if (read && !found.includes(read.dueOn)) found.push(read.dueOn);
  return found;
}
