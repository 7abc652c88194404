import { periodQuestions, progressOf } from '.';
import { builtIn } from '../../kernel/catalogue';
import { inWords } from '../../kernel/questions';

describe('the waterline', () => {
  it('says what is attained, still needed, and covered', () => {
    expect(progressOf({ won: 60, weightedOpen: 30, open: 80, target: 100 })).toEqual({
      attainment: 0.6,
      gap: 40,
      coverage: 2,
    });
  });

  it('needs nothing more once the target is reached', () => {
    expect(progressOf({ won: 120, weightedOpen: 0, open: 5, target: 100 })).toEqual({
      attainment: 1.2,
      gap: 0,
      coverage: null,
    });
  });

  it('has no attainment without a target', () => {
    expect(progressOf({ won: 120, weightedOpen: 0, open: 5, target: null })).toEqual({
      attainment: null,
      gap: 0,
      coverage: null,
    });
  });

  it('asks for won deals by when they closed and open ones by when they should', () => {
    const wording = { catalogue: builtIn, listName: String, nameOf: () => '', day: String, money: String };
    const { won, open } = periodQuestions(
      { field: 'owner', is: 'anyOf', value: ['@me'] },
      { unit: 'fiscalQuarter', offset: 0 },
    );
    expect(inWords(won, wording)).toBe(
      'Deals where outcome is Won and closed on is in this fiscal quarter and owner is me, showing number of deals, sum of value and sum of weighted value',
    );
    expect(inWords(open, wording)).toBe(
      'Deals where outcome is Open and close date is in this fiscal quarter and owner is me, showing number of deals, sum of value and sum of weighted value',
    );
  });
});
