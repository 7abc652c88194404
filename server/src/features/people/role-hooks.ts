import { IsNull } from 'typeorm';
import {
  changesFrom,
  fieldAt,
  howMany,
  isGroup,
  isObjectKey,
  isReadyRole,
  isRelated,
  objectType,
  readRules,
  relationOf,
  rulesOf,
  type AnyRecord,
  type Catalogue,
  type Condition,
  type ObjectKey,
  type RecordOf,
  type RoleChanges,
} from '@zawn/core';
import { checkRoleChanges } from '@zawn/core/validation';
import { invalidInput, Problem } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { refuseNobodyLeft } from './somebody-left';

type Role = RecordOf<'role'> & { deletedAt: string | null };

interface Named {
  object: ObjectKey;
  ids: readonly number[];
}

/** The records that a condition names by their ids. */
export function recordsNamed(catalogue: Catalogue, object: ObjectKey, condition: Condition): Named[] {
  if (isGroup(condition)) return condition.of.flatMap((part) => recordsNamed(catalogue, object, part));
  if (isRelated(condition)) {
    const hub = condition.via ? (fieldAt(catalogue, object, condition.via)?.to as ObjectKey) : object;
    const relation = relationOf(catalogue, hub, condition.related);
    return relation && condition.where ? recordsNamed(catalogue, relation.object, condition.where) : [];
  }
  const to = fieldAt(catalogue, object, condition.field)?.to;
  if (!isObjectKey(to) || !Array.isArray(condition.value)) return [];
  const ids = (condition.value as unknown[]).filter((each) => typeof each === 'number');
  return ids.length > 0 ? [{ object: to, ids }] : [];
}

/** Whatever a role names must be there, or it would permit something else than it says. */
async function refuseGone(unit: Unit, { exceptions = [] }: RoleChanges): Promise<void> {
  for (const [index, { object, where }] of exceptions.entries())
    for (const named of recordsNamed(unit.catalogue, object, where)) {
      const found = await unit.everyones(named.object, named.ids);
      const gone = named.ids.filter((id) => {
        const record = found.get(id);
        return !record || record.active === false || record.retired === true;
      });
      if (gone.length > 0)
        throw invalidInput([
          {
            field: `rules.exceptions.${index}.where`,
            message: `Exception ${index + 1}: the ${objectType(named.object).label.toLowerCase()} it names is gone or retired`,
          },
        ]);
    }
}

/** A key that no other role has or ever had, made from a name. */
async function newKey(unit: Unit, name: string): Promise<string> {
  const plain = name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '')
    .slice(0, 30);
  const base = plain ? plain[0].toLowerCase() + plain.slice(1) : 'role';
  for (let count = 1; ; count += 1) {
    const key = count === 1 ? base : `${base}${count}`;
    if (!(await unit.manager.existsBy('role', { key }))) return key;
  }
}

async function refuseSameName(unit: Unit, name: unknown, id: number | undefined): Promise<void> {
  const all = await unit.manager.findBy<Role>('role', { deletedAt: IsNull() });
  const same = all.find((role) => role.id !== id && role.name.toLowerCase() === String(name).toLowerCase());
  if (same) throw invalidInput([{ field: 'name', message: `Name: there is a role “${same.name}” already` }]);
}

/** A role cannot go while somebody has it. */
async function refuseInUse(unit: Unit, role: AnyRecord): Promise<void> {
  const people = await unit.manager.countBy('person', { role: String(role.key), deletedAt: IsNull() });
  const grants = await unit.manager.countBy('roleGrant', { role: String(role.key), deletedAt: IsNull() });
  if (people + grants === 0) return;
  const used = [
    ...(people > 0 ? [howMany('person', people)] : []),
    ...(grants > 0 ? [`${grants} further ${grants === 1 ? 'grant' : 'grants'}`] : []),
  ].join(' and ');
  throw new Problem(
    'conflict',
    `“${String(role.name)}” is still the role of ${used}. Give them another first. Nothing was changed.`,
  );
}

function checkRules(unit: Unit, next: Values, basis: string): RoleChanges {
  const { value } = checkedJson(next.rules ?? '{}', 'rules', 'Rules', (raw) =>
    checkRoleChanges(raw, basis, unit.catalogue),
  );
  // Only what differs is kept, so that a ready role takes part in whatever a later feature brings.
  const changes = changesFrom(basis, rulesOf(basis, value));
  next.rules = Object.keys(changes).length > 0 ? JSON.stringify(changes) : null;
  return changes;
}

/** What writing a role means: it permits only what holds together, and somebody is left who can change it back. */
export const roleHooks: RecordHooks = {
  object: 'role',
  async beforeWrite(unit, next, before) {
    if (next.name !== undefined) await refuseSameName(unit, next.name, before?.id);
    const basis = String(next.basis ?? before?.basis);
    if (!isReadyRole(basis))
      throw invalidInput([{ field: 'basis', message: 'Begins as: this is not a role that comes with Zawn' }]);
    if (!before) next.key = await newKey(unit, String(next.name));
    if (next.rules !== undefined && unit.undoes === undefined)
      await refuseGone(unit, checkRules(unit, next, basis));
    if (next.retired === true && before && before.retired !== true) await refuseInUse(unit, before);
  },
  async afterWrite(unit, after, before) {
    if (before && (before.rules !== after.rules || before.retired !== after.retired))
      await refuseNobodyLeft(unit, 'After this change');
  },
  beforeRemove: refuseInUse,
};

/** Somebody is given a further role: one person, or everyone in a team. */
export const roleGrantHooks: RecordHooks = {
  object: 'roleGrant',
  async beforeWrite(unit, next, before) {
    const { role, person, team } = { ...before, ...next };
    if (((person ?? null) === null) === ((team ?? null) === null))
      throw invalidInput([
        { field: 'person', message: 'A further role is given to one person or to one team' },
      ]);
    const same = await unit.manager.findOneBy<AnyRecord>('roleGrant', {
      role: String(role),
      person: (person as number | null) ?? IsNull(),
      team: (team as number | null) ?? IsNull(),
      deletedAt: IsNull(),
    });
    if (same && same.id !== before?.id)
      throw invalidInput([{ field: 'role', message: 'Role: they have it already' }]);
  },
  async afterWrite(unit, _, before) {
    if (before) await refuseNobodyLeft(unit, 'After this change');
  },
  afterRemove: (unit) => refuseNobodyLeft(unit, 'Without this role'),
};

/** What roles name cannot go from under them: they would permit something else than they say. */
export const namedByRoles: readonly RecordHooks[] = (['stage', 'pipeline', 'team', 'person'] as const).map(
  (object) => ({
    object,
    async beforeRemove(unit, record) {
      const roles = await unit.manager.findBy<Role>('role', { deletedAt: IsNull() });
      const naming = roles.filter(({ basis, rules }) =>
        readRules(basis, rules).exceptions.some((exception) =>
          recordsNamed(unit.catalogue, exception.object, exception.where).some(
            (named) => named.object === object && named.ids.includes(record.id),
          ),
        ),
      );
      if (naming.length > 0)
        throw new Problem(
          'conflict',
          `The role “${naming[0].name}” names “${String(record[objectType(object).nameField])}” in an exception. Change the role first. Nothing was deleted.`,
        );
    },
  }),
);
