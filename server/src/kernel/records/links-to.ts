import { objectKeys, objectType, storedFields, type ObjectKey } from '@zawn/core';

/** Fields of all objects that link to this one. */
export function linksTo(object: ObjectKey): (readonly [user: ObjectKey, key: string])[] {
  const users = objectKeys.filter((user) => objectType(user).category !== 'log');
  return users.flatMap((user) =>
    storedFields(user)
      .filter(([, { to }]) => to === object)
      .map(([key]) => [user, key] as const),
  );
}
