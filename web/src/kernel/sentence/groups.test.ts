import { type Condition, type Group } from '@zawn/core';
import { addLabel, asGroup, fromGroup } from './groups';

const open: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
const late: Condition = { field: 'closeOn', is: 'before', value: { days: 0 } };
const all = (...of: Condition[]): Group => ({ join: 'all', of });

describe('conditions as groups', () => {
  it('begin with nothing, with one, or as they are', () => {
    expect(asGroup(undefined)).toEqual(all());
    expect(asGroup(open)).toEqual(all(open));
    const any: Group = { join: 'any', of: [open, late] };
    expect(asGroup(any)).toBe(any);
  });

  it('become no more than they have to be', () => {
    expect(fromGroup(all())).toBeUndefined();
    expect(fromGroup(all(open))).toEqual(open);
    expect(fromGroup(all(open, late))).toEqual(all(open, late));
    // None of one condition is not that condition.
    expect(fromGroup({ join: 'none', of: [open] })).toEqual({ join: 'none', of: [open] });
  });

  it('come back as they were', () => {
    for (const condition of [open, all(open, late), { join: 'none' as const, of: [late] }])
      expect(fromGroup(asGroup(condition))).toEqual(condition);
  });
});

describe('the place to add a condition', () => {
  it('says how the sentence goes on', () => {
    expect(addLabel(all(), 'top')).toBe('where…');
    expect(addLabel(all(open), 'top')).toBe('and…');
    expect(addLabel({ join: 'any', of: [open] }, 'nested')).toBe('or…');
    expect(addLabel({ join: 'none', of: [] }, 'nested')).toBe('which…');
    expect(addLabel(all(open), 'inline')).toBe('and where…');
  });
});
