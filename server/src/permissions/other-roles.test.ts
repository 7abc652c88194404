import { ask, readyRoleKeys, rulesOf, type SignedIn } from '@zawn/core';
import { Random } from '../demo/random';
import { anyRules, give, holds, leadingRoles, person } from './tried-roles';

/** So many roles are tried that nobody would think of. */
const ROLES = Number(process.env.ZAWN_FUZZ_ROLES ?? 2);
const SEED = Number(process.env.ZAWN_FUZZ_SEED ?? 20261119);

describe('a person', () => {
  for (const key of readyRoleKeys.filter((each) => !leadingRoles.includes(each)))
    holds(`with the ready role ${key}`, () => rulesOf(key, {}));
  for (let index = 0; index < ROLES; index += 1)
    holds(`with rules ${index} of seed ${SEED}`, () => anyRules(new Random(SEED + index)));

  it('feels a change at once, in what is open already', async () => {
    const rules = rulesOf('rep', {});
    await give(rules);
    const before = (await person.records(ask('deal'), 1)).total;
    await give({ ...rules, reach: { ...rules.reach, deal: { ...rules.reach.deal, see: 'all' } } });
    expect((await person.records(ask('deal'), 1)).total).toBeGreaterThan(before);
    const { body } = await person.call('get', '/session').expect(200);
    expect((body as SignedIn).actor.roles[0].reach.deal?.see).toBe('all');
  });
});
