import { builtIn, objectKeys, type AnyRecord, type ObjectKey } from '../catalogue';
import { holds, type QuestionContext } from '../questions';
import { heldRole, policyOf, rulesOf, scopeCondition, someoneWith, soundRules, type Actor } from '.';

const rep: Actor = { ...someoneWith(1, heldRole('rep')), teamPeople: [1, 2], teams: [3] };
const manager: Actor = { ...someoneWith(9, heldRole('manager')), teamPeople: [1, 2, 9], teams: [3] };
const operations: Actor = { ...someoneWith(5, heldRole('operations')), teams: [1] };

const head = { version: 1, createdAt: '', createdBy: null, updatedAt: '' };
const deals: Record<number, AnyRecord> = {
  1: Object.assign({ id: 1, owner: 1 }, head),
  2: Object.assign({ id: 2, owner: 2 }, head),
  3: Object.assign({ id: 3, owner: 3 }, head),
};
const context: QuestionContext = {
  catalogue: builtIn,
  lists: [],
  today: '2026-11-19',
  now: '2026-11-19T09:30:00.000Z',
  timeZone: 'UTC',
  language: 'en',
  calendar: { fiscalYearStart: 1, weekStart: 1 },
  reportingCurrency: 'GBP',
  me: 1,
  myTeam: [1, 2],
};
const around = {
  find: (object: ObjectKey, id: number) => (object === 'deal' ? deals[id] : undefined),
  linking: () => [],
  rates: [],
};

const reaches = (actor: Actor, object: ObjectKey, record: Record<string, number | null>) => {
  const reach = scopeCondition(policyOf(actor), object);
  return !reach || holds(reach, object, Object.assign({ id: 99 }, head, record), context, around);
};

describe('reach', () => {
  it('is one’s own for a rep, the team and below for a manager, all for operations', () => {
    const reached = (actor: Actor) => [1, 2, 3].filter((owner) => reaches(actor, 'deal', { owner }));
    expect(reached(rep)).toEqual([1]);
    expect(reached(manager)).toEqual([1, 2]);
    expect(reached(operations)).toEqual([1, 2, 3]);
  });

  it('takes in a colleague’s activity on one’s own deal, and no other of theirs', () => {
    const theirs = { owner: 2, lead: null, contact: null, account: null };
    expect(reaches(rep, 'activity', { ...theirs, deal: 1 })).toBe(true);
    expect(reaches(rep, 'activity', { ...theirs, deal: 2 })).toBe(false);
    expect(reaches(rep, 'note', { ...theirs, deal: null })).toBe(false);
  });

  it('is held back for every object that has an owner, or that only operations may read', () => {
    for (const object of objectKeys) {
      const owned = [
        'lead',
        'contact',
        'account',
        'deal',
        'activity',
        'note',
        'mail',
        'target',
        'view',
        'list',
        'callList',
        'report',
        'dashboard',
        'folder',
        'snapshot',
        'snapshotPlan',
        'pack',
        'file',
        'membership',
        'dealContact',
        'dealLine',
        'checklistItem',
        'activityLink',
        'recordingRemark',
        'guideTick',
        'share',
        'contactSuggestion',
        'stageStay',
        'loggedChange',
        'assignmentRule',
        'form',
        'captureAddress',
      ].includes(object);
      expect([object, scopeCondition(policyOf(rep), object) !== undefined]).toEqual([object, owned]);
    }
  });

  it('lies not open where an exception asks about a field that is gone', () => {
    const where = { field: 'x_gone', is: 'isNotEmpty' } as const;
    const rules = rulesOf('operations', {
      exceptions: [{ object: 'deal', operations: ['see'], where, reach: 'none' }],
    });
    const policy = policyOf(someoneWith(1, { name: 'Broken', ...soundRules(rules, builtIn) }));
    expect([policy.scope('deal'), policy.scope('deal', 'edit'), policy.scope('lead')]).toEqual([
      'none',
      'none',
      'all',
    ]);
  });

  it('adds up over several roles, and is narrowed by the first exception that is met', () => {
    const where = { field: 'owner', is: 'anyOf', value: [3] } as const;
    const narrowed = rulesOf('operations', {
      exceptions: [{ object: 'deal', operations: ['see'], where, reach: 'none' }],
    });
    const one = { name: 'Narrowed', ...narrowed };
    expect([1, 2, 3].filter((owner) => reaches(someoneWith(3, one), 'deal', { owner }))).toEqual([1, 2]);
    const both = someoneWith(3, one, heldRole('rep'));
    expect([1, 2, 3].filter((owner) => reaches(both, 'deal', { owner }))).toEqual([1, 2, 3]);
  });

  it('takes in what is theirs for whom one stands in', () => {
    const standing = { ...rep, standsInFor: [3] };
    expect([1, 2, 3].filter((owner) => reaches(standing, 'deal', { owner }))).toEqual([1, 3]);
  });

  it('keeps back of what is set up what no role of theirs permits', () => {
    const withoutDelete = rulesOf('operations', {
      withheld: { setUpProducts: ['add', 'delete'], setUpPipelines: ['edit'] },
    });
    const one = { name: 'Careful', ...withoutDelete };
    const may = (actor: Actor, object: ObjectKey) =>
      (['see', 'add', 'edit', 'delete'] as const).map((each) => policyOf(actor).allows(object, each));
    expect(may(someoneWith(3, one), 'product')).toEqual([true, false, true, false]);
    expect(may(someoneWith(3, one), 'stage')).toEqual([true, true, false, true]);
    expect(may(someoneWith(3, one), 'tag')).toEqual([true, true, true, true]);
    const both = someoneWith(3, one, { name: 'Other', ...rulesOf('rep', { acts: { setUpProducts: true } }) });
    expect(may(both, 'product')).toEqual([true, true, true, true]);
    // Nothing is permitted by what is not withheld of a part that the role does not set up.
    expect(may(someoneWith(3, { name: 'None', ...rulesOf('rep', { withheld: {} }) }), 'product')).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });

  it('leaves the set-up to operations', () => {
    expect([rep, manager, operations].map((actor) => policyOf(actor).may('setUpFields'))).toEqual([
      false,
      false,
      true,
    ]);
  });
});
