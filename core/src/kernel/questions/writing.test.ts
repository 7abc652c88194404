import { builtIn } from '../catalogue';
import {
  completeQuestion,
  periodInWords,
  suggestDays,
  suggestPeriods,
  type Condition,
  type Question,
} from '.';

const TODAY = '2026-11-19';

describe('a question that is being written', () => {
  const open: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
  const unfinished: Condition = { field: 'closeOn', is: 'in' };
  const complete = (where?: Condition): Question => ({
    version: 1,
    object: 'deal',
    ...(where ? { where } : {}),
  });

  it('runs without the parts that have no value yet', () => {
    expect(completeQuestion(builtIn, complete({ join: 'all', of: [open, unfinished] }))).toEqual(
      complete({ join: 'all', of: [open] }),
    );
    expect(
      completeQuestion(builtIn, complete({ join: 'any', of: [{ join: 'none', of: [unfinished] }] })),
    ).toEqual(complete());
    expect(completeQuestion(builtIn, complete({ field: 'owner', is: 'anyOf', value: [] }))).toEqual(
      complete(),
    );
  });

  it('keeps related records and drops what is unfinished about them', () => {
    const related: Condition = {
      related: 'activity.deal',
      where: { field: 'doneAt', is: 'in' },
      is: 'is',
      value: 0,
    };
    expect(completeQuestion(builtIn, complete(related))).toEqual(
      complete({ related: 'activity.deal', is: 'is', value: 0 }),
    );
  });

  it('leaves a field that is gone to be named', () => {
    const gone: Condition = { field: 'shoe', is: 'is', value: 4 };
    expect(completeQuestion(builtIn, complete(gone))).toEqual(complete(gone));
  });
});

describe('typing a date', () => {
  const said = (text: string) => suggestPeriods(text).map(periodInWords);

  it.each([
    ['', 'this fiscal quarter'],
    ['last m', 'last month'],
    ['60', 'the last 60 days'],
    ['next 3 w', 'the next 3 weeks'],
    ['past 2 months', 'the last 2 months'],
    ['year to date', 'this year, to date'],
  ])('“%s” offers “%s” first', (text, first) => {
    expect(said(text)[0]).toBe(first);
  });

  it('offers nothing for what means nothing', () => {
    expect(said('potatoes')).toEqual([]);
    expect(said('0')).not.toContain('the last 0 days');
  });

  it.each<[string, unknown]>([
    ['2026-12-01', '2026-12-01'],
    ['3 days', { days: -3 }],
    ['yest', { days: -1 }],
    ['12 dec', '2026-12-12'],
  ])('“%s” as a day offers %j', (text, day) => {
    expect(suggestDays(text, TODAY)).toContainEqual(day);
  });
});
