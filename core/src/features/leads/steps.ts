import { type Choice } from '../../kernel/catalogue';

/** The status of a lead that was converted. */
export const CONVERTED = 'converted';

/**
 * The statuses that a lead goes through, in their order, by their keys: letting it go is no step on, and being converted
 * is the last.
 */
export function leadSteps(statuses: readonly Choice[]): string[] {
  const passed = statuses.filter(
    ({ key, kind, retired }) => !retired && kind !== 'disqualified' && key !== CONVERTED,
  );
  return [...passed.map(({ key }) => key), CONVERTED];
}

/** What a new organisation is advised to find out or do, by the status of a lead. */
export const startingLeadGuides: Readonly<Record<string, readonly string[]>> = {
  untouched: ['Read what came in', 'Look who else knows them', 'Call within the day'],
  working: ['What do they need, and by when', 'Who decides', 'What do they have today'],
  waiting: ['Agree on a day to hear again'],
  qualified: ['Convert it, with the first next step on the deal'],
};
