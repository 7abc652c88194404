import { ask, type Question } from '@zawn/core';
import { DESIGN, designIn, listAddress } from './list-address';

describe('the address of a list', () => {
  const question: Question = {
    ...ask('deal', { field: 'name', is: 'contains', value: 'a&b=c "d" é' }),
    measures: [{ as: 'count' }],
  };

  it('carries the question behind a figure, and gives it back', () => {
    const address = new URL(listAddress('deals', question), 'http://zawn.example');
    expect(address.pathname).toBe('/deals');
    const design = designIn(address.searchParams.get(DESIGN), 'deal');
    expect(design?.question.where).toEqual(question.where);
    expect(design?.draw).toBe('table');
  });

  it('shows the view itself when it carries nothing, something else, or rubbish', () => {
    expect(designIn(null, 'deal')).toBeUndefined();
    expect(designIn('{"question":', 'deal')).toBeUndefined();
    expect(designIn(JSON.stringify({ question: ask('lead'), draw: 'table' }), 'deal')).toBeUndefined();
    expect(designIn('{}', 'deal')).toBeUndefined();
  });
});
