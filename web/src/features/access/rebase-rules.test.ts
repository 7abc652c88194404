import { rulesOf, type RoleRules } from '@zawn/core';
import { rebaseRules } from './rebase-rules';

const began = rulesOf('rep', {});
const withSee = (object: 'deal' | 'lead', see: 'team' | 'all'): RoleRules => ({
  ...began,
  reach: { ...began.reach, [object]: { ...began.reach[object], see } },
});

describe('changes of a role that someone else changed meanwhile', () => {
  it('are put on top of theirs, cell by cell', () => {
    const both = rebaseRules(began, withSee('deal', 'team'), withSee('lead', 'all'));
    expect([both.reach.deal?.see, both.reach.lead?.see]).toEqual(['team', 'all']);
    expect(both.reach.deal?.edit).toBe('shared');
  });

  it('win where both changed the same', () => {
    expect(rebaseRules(began, withSee('deal', 'team'), withSee('deal', 'all')).reach.deal?.see).toBe('team');
  });

  it('leave what only they took away or gave', () => {
    const theirs = {
      ...began,
      acts: [...began.acts.filter((act) => act !== 'mergeRecords'), 'seeTeam' as const],
    };
    const mine = { ...began, acts: began.acts.filter((act) => act !== 'closeDeals') };
    expect(rebaseRules(began, mine, theirs).acts).toEqual(['convertLeads', 'seeTeam']);
  });

  it('keep exceptions and fields of whoever changed them', () => {
    const fields = [{ object: 'deal', field: 'value', may: 'nothing' }] as const;
    expect(rebaseRules(began, began, { ...began, fields }).fields).toEqual(fields);
    expect(rebaseRules(began, { ...began, fields }, began).fields).toEqual(fields);
  });
});
