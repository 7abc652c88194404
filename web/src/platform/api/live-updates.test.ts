import { ANY_RECORD } from './queries';
import { isConcerned } from './live-updates';

describe('an answer that was given before', () => {
  const says = (...reads: string[]) => ({ meta: { reads } });

  it('is asked again where what it reads was written, or may have been', () => {
    expect(isConcerned(says('deal'), new Set(['lead', 'deal']))).toBe(true);
    expect(isConcerned(says('deal'), new Set(['lead']))).toBe(false);
    expect(isConcerned(says('deal'), undefined)).toBe(true);
  });

  it('that does not say what it reads is asked again after any write to records, and after nothing else', () => {
    expect(isConcerned({ meta: undefined }, new Set(['lead']))).toBe(true);
    expect(isConcerned({ meta: undefined }, new Set(['notice', 'phoneCall']))).toBe(false);
    expect(isConcerned(says(ANY_RECORD, 'notice'), new Set(['notice']))).toBe(true);
    expect(isConcerned(says(ANY_RECORD, 'notice'), new Set(['phoneCall']))).toBe(false);
    expect(isConcerned(says(ANY_RECORD, 'notice'), new Set(['contact']))).toBe(true);
  });
});
