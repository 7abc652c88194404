import { builtIn, type AnyRecord } from '@zawn/core';
import { changedMeanwhile } from './meanwhile';

const seen = {
  id: 1,
  version: 3,
  name: 'Harbour Trust',
  street: 'Mill Lane',
  city: 'Brackwater',
  tags: ['ferry'],
  lastTouchAt: null,
} as unknown as AnyRecord;
const changed = (values: object) =>
  changedMeanwhile(builtIn, 'account', seen, { ...seen, version: 4, ...values });

describe('what changed meanwhile', () => {
  it('is nothing while the version stands', () => {
    expect(changedMeanwhile(builtIn, 'account', seen, { ...seen, city: 'Elsewhere' })).toEqual([]);
  });

  it('is each field that differs, with what it was and is', () => {
    const found = changed({ street: '7 Tide Mill', tags: ['ferry', 'port'] });
    expect(found.map(({ key, from, to }) => [key, from, to])).toEqual([
      ['street', 'Mill Lane', '7 Tide Mill'],
      ['tags', ['ferry'], ['ferry', 'port']],
    ]);
  });

  it('leaves out sets that hold the same, and what nobody wrote', () => {
    expect(changed({ tags: ['ferry'], lastTouchAt: '2026-11-19T10:00:00.000Z' })).toEqual([]);
  });
});
