import { builtIn } from '../catalogue';
import { type QuestionContext } from './context';

/** Somebody in London who asks on a morning in November, for tests. */
export const askedInLondon: QuestionContext = {
  catalogue: builtIn,
  lists: [],
  today: '2026-11-19',
  now: '2026-11-19T09:30:00.000Z',
  timeZone: 'Europe/London',
  language: 'en',
  calendar: { fiscalYearStart: 4, weekStart: 1 },
  reportingCurrency: 'GBP',
  me: 1,
  myTeam: [1, 2],
};
