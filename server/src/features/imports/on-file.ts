import { type EntityManager } from 'typeorm';
import { ask, isSameScope, policyOf, type Actor, type AnyRecord } from '@zawn/core';
import {
  alikeKey,
  keyText,
  nameKey,
  targetOf,
  type KnownRecord,
  type LookupKey,
  type OnFile,
  type TargetKey,
} from '@zawn/core/imports';
import { type Gate } from '../../kernel/questions/gate';

/** Texts looked up in one statement. */
const SLICE = 2000;

/**
 * What is on file within a person's reach under the keys that a file names. Looked up by index, a slice at a time, so
 * that it takes as long as the file is large, not as what is on file is.
 * @param manager reads inside that transaction instead of what is committed.
 */
export async function readOnFile(
  gate: Gate,
  actor: Actor,
  wanted: Map<TargetKey, Map<LookupKey, Set<string>>>,
  manager?: EntityManager,
): Promise<OnFile> {
  const found = new Map<string, KnownRecord[]>();
  const records = new Map<string, KnownRecord>();
  const keep = (object: TargetKey, key: LookupKey, holding: readonly AnyRecord[]) => {
    for (const record of holding) {
      const text = keyText(key, record);
      const known = records.get(`${object} ${record.id}`) ?? { record };
      records.set(`${object} ${record.id}`, known);
      const name = `${object} ${key} ${text}`;
      const same = found.get(name);
      if (!same) found.set(name, [known]);
      else if (!same.includes(known)) same.push(known);
    }
  };
  for (const [object, keys] of wanted) {
    for (const [key, texts] of keys) {
      if (key === 'alike') continue;
      // In order, so that what lies together in the index is read together.
      const all = [...texts].sort();
      for (let from = 0; from < all.length; from += SLICE) {
        const some = all.slice(from, from + SLICE);
        const holding =
          key === 'id'
            ? [...(await gate.visibleStored(actor, object, some.map(Number).filter(isId), manager)).values()]
            : await gate.holding(actor, object, key, some, manager);
        keep(object, key, holding);
      }
    }
  }
  const unknown = [...(wanted.get('account')?.get('alike') ?? [])].filter(
    (name) => !found.has(`account name ${nameKey(name)}`),
  );
  keep('account', 'alike', await namedAlike(gate, actor, unknown, manager));
  await nameAccounts(gate, actor, [...records.values()], manager);
  for (const [object, keys] of wanted) {
    const some = [...records].filter(([name]) => keys.has('id') && name.startsWith(`${object} `));
    await nameLinks(
      gate,
      actor,
      object,
      some.map(([, known]) => known),
      manager,
    );
  }
  for (const same of found.values()) same.sort((a, b) => a.record.id - b.record.id);
  const readOnly = await notToBeChanged(gate, actor, records, manager);
  return {
    find: (object, key, text) => found.get(`${object} ${key} ${text}`) ?? [],
    isReadOnly: (object, id) => readOnly.has(`${object} ${id}`),
  };
}

/** Which of the records on file the importing person sees and may not change, or not by a file. */
async function notToBeChanged(
  gate: Gate,
  actor: Actor,
  records: ReadonlyMap<string, KnownRecord>,
  manager: EntityManager | undefined,
): Promise<ReadonlySet<string>> {
  const policy = policyOf(actor);
  const ids = new Map<TargetKey, number[]>();
  for (const name of records.keys()) {
    const [object, id] = name.split(' ') as [TargetKey, string];
    ids.set(object, [...(ids.get(object) ?? []), Number(id)]);
  }
  const readOnly = new Set<string>();
  for (const [object, some] of ids)
    for (const operation of ['edit', 'import'] as const) {
      if (isSameScope(policy, object, operation)) continue;
      const allowed = await gate.visibleStored(actor, object, some, manager, operation);
      for (const id of some) if (!allowed.has(id)) readOnly.add(`${object} ${id}`);
    }
  return readOnly;
}

/** The accounts whose names are nearly these: no index knows how names may be written, so all are looked through. */
async function namedAlike(
  gate: Gate,
  actor: Actor,
  names: readonly string[],
  manager: EntityManager | undefined,
): Promise<AnyRecord[]> {
  if (names.length === 0) return [];
  const meant = new Set(names.map(alikeKey));
  const all = await gate.few<{ id: number; name: string }>(actor, ask('account'), ['name'], manager);
  const ids = all.flatMap(({ id, name }) => (meant.has(alikeKey(name)) ? id : []));
  return [...(await gate.visibleStored(actor, 'account', ids, manager)).values()];
}

const isId = (id: number) => Number.isSafeInteger(id) && id > 0;

/** Contacts and deals of one name are told apart by their accounts. */
async function nameAccounts(
  gate: Gate,
  actor: Actor,
  known: readonly KnownRecord[],
  manager: EntityManager | undefined,
): Promise<void> {
  const linked = known.map(({ record }) => record.account).filter((id) => typeof id === 'number');
  const accounts = await gate.visibleStored(actor, 'account', [...new Set(linked)], manager);
  for (const each of known) {
    const account = accounts.get(Number(each.record.account));
    if (account) each.accountName = String(account.name);
  }
}

/** In a file that Zawn wrote, linked records stand by their names. */
async function nameLinks(
  gate: Gate,
  actor: Actor,
  object: TargetKey,
  known: readonly KnownRecord[],
  manager: EntityManager | undefined,
): Promise<void> {
  if (known.length === 0) return;
  for (const { link, object: to } of targetOf(object).parts) {
    const ids = known.map(({ record }) => record[link]).filter((id) => typeof id === 'number');
    const linked = await gate.visibleStored(actor, to, [...new Set(ids)], manager);
    for (const each of known) {
      const record = linked.get(Number(each.record[link]));
      if (record) each.names = { ...each.names, [link]: String(record.name) };
    }
  }
}
