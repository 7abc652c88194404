/** Parts of a date by which records are told apart, whichever week or year they are of. */
export const dateParts = ['weekday', 'month', 'day', 'hour'] as const;
export type DatePart = (typeof dateParts)[number];

/**
 * How a computed field follows from others, said once: a question is answered with it in memory as in SQL. Paths may
 * lead behind links, such as `stage.probability`.
 */
export type Formula =
  /**
   * Calendar days from a day, or from an instant in the organisation's time zone, until today, or until a day in another
   * field once that has one.
   */
  | { readonly daysSince: string; readonly until?: string }
  /** Calendar days from one day or instant to another; none where one of them is empty. */
  | { readonly daysFrom: string; readonly to: string }
  /** A part of a day, or of an instant in the organisation's time zone. */
  | { readonly part: DatePart; readonly of: string }
  /** So many percent of an amount, by the first of these fields that is not empty. */
  | { readonly percent: readonly string[]; readonly of: string }
  /** The earliest day in a field of the records that link here, as long as another field of them is empty. */
  | { readonly earliest: string; readonly of: 'activity'; readonly by: string; readonly whileEmpty: string }
  | YesOrNo;

/** A formula that is always either true or false. */
export type YesOrNo =
  /** Whether it is office hours now in the country that a field names, or it names none. */
  | { readonly isOfficeHourIn: string }
  | { readonly field: string; readonly isChoice: string }
  /** Whether a number is as large; never where it is empty. */
  | { readonly field: string; readonly isAtLeast: number }
  /** Whether a day is before today; where it is empty, only if that counts. */
  | { readonly isPast: string; readonly orEmpty?: true }
  /** Whether it is longer ago than the number of days in another field; never where that is empty. */
  | { readonly daysSince: string; readonly exceed: string }
  | { readonly every: readonly YesOrNo[] }
  | { readonly some: readonly YesOrNo[] };

/** Whether a formula needs nothing but the record itself and the moment. */
export function isOfMoment(formula: Formula): boolean {
  if ('every' in formula) return formula.every.every(isOfMoment);
  if ('some' in formula) return formula.some.every(isOfMoment);
  if ('earliest' in formula) return false;
  if ('daysFrom' in formula || 'part' in formula) return true;
  const paths =
    'percent' in formula ? [...formula.percent, formula.of] : 'exceed' in formula ? [formula.exceed] : [];
  return paths.every((path) => !path.includes('.'));
}

/** The paths that a computed field follows from, from the record that has it. */
export function pathsIn(formula: Formula): readonly string[] {
  if ('every' in formula) return formula.every.flatMap(pathsIn);
  if ('some' in formula) return formula.some.flatMap(pathsIn);
  if ('percent' in formula) return [...formula.percent, formula.of];
  if ('earliest' in formula) return [];
  if ('daysFrom' in formula) return [formula.daysFrom, formula.to];
  if ('part' in formula) return [formula.of];
  if ('exceed' in formula) return [formula.daysSince, formula.exceed];
  if ('daysSince' in formula) return [formula.daysSince, ...(formula.until ? [formula.until] : [])];
  if ('isPast' in formula) return [formula.isPast];
  return 'field' in formula ? [formula.field] : [formula.isOfficeHourIn];
}
