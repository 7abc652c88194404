import { type EntityManager } from 'typeorm';
import { type Actor } from '@zawn/core';
import { keyText, type KnownRecord, type MatchKey, type OnFile, type TargetKey } from '@zawn/core/imports';
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
  wanted: Map<TargetKey, Map<MatchKey, Set<string>>>,
  manager?: EntityManager,
): Promise<OnFile> {
  const found = new Map<string, KnownRecord[]>();
  const records = new Map<string, KnownRecord>();
  for (const [object, keys] of wanted) {
    for (const [key, texts] of keys) {
      // In order, so that what lies together in the index is read together.
      const all = [...texts].sort();
      for (let from = 0; from < all.length; from += SLICE) {
        for (const record of await gate.holding(actor, object, key, all.slice(from, from + SLICE), manager)) {
          const text = keyText(key, record);
          const known = records.get(`${object} ${record.id}`) ?? { record };
          records.set(`${object} ${record.id}`, known);
          const name = `${object} ${key} ${text}`;
          const same = found.get(name);
          if (!same) found.set(name, [known]);
          else if (!same.includes(known)) same.push(known);
        }
      }
    }
  }
  await nameAccounts(gate, actor, [...records.values()], manager);
  for (const same of found.values()) same.sort((a, b) => a.record.id - b.record.id);
  return { find: (object, key, text) => found.get(`${object} ${key} ${text}`) ?? [] };
}

/** Contacts and deals of one name are told apart by their accounts. */
async function nameAccounts(
  gate: Gate,
  actor: Actor,
  known: readonly KnownRecord[],
  manager: EntityManager | undefined,
): Promise<void> {
  const linked = known.map(({ record }) => record.account).filter((id) => typeof id === 'number');
  const accounts = await gate.visible(actor, 'account', [...new Set(linked)], manager);
  for (const each of known) {
    const account = accounts.get(Number(each.record.account));
    if (account) each.accountName = String(account.name);
  }
}
