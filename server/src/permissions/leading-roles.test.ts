import { rulesOf } from '@zawn/core';
import { holds, leadingRoles } from './tried-roles';

describe('a person', () => {
  for (const key of leadingRoles) holds(`with the ready role ${key}`, () => rulesOf(key, {}));
});
