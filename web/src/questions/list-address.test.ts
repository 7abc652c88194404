import { ask, type Question } from '@zawn/core';
import { listAddress, questionIn } from './list-address';

describe('the address of a list', () => {
  const question: Question = {
    ...ask('deal', { field: 'name', is: 'contains', value: 'a&b=c "d" é' }),
    measures: [{ as: 'count' }],
  };

  it('carries the question behind a figure, and gives it back', () => {
    const address = new URL(listAddress('deals', question), 'http://zawn.example');
    expect(address.pathname).toBe('/deals');
    const { version, object, where } = question;
    expect(questionIn(address.searchParams.get('q'), 'deal')).toEqual({ version, object, where });
  });

  it('shows the list itself when it carries nothing, something else, or rubbish', () => {
    expect(questionIn(null, 'deal')).toBeUndefined();
    expect(questionIn('{"object":', 'deal')).toBeUndefined();
    expect(questionIn(JSON.stringify(ask('lead')), 'deal')).toBeUndefined();
  });
});
