import { type EntityManager } from 'typeorm';
import { type CredentialRow } from '../../platform/database/rows';
import { Problem } from '../../platform/http/problem';
import { type Unit } from '../../kernel/records/unit';

const whoHasPassword = async (manager: EntityManager): Promise<ReadonlySet<number>> =>
  new Set((await manager.find<CredentialRow>('credential')).map(({ person }) => person));

/**
 * Somebody must be left who can sign in and look after people, or nobody could ever mend it. Asked after a write that
 * may have taken that from somebody; where nobody could before, there is nothing to keep.
 * @param what was done, as the beginning of the refusal.
 * @throws Problem `conflict` when nobody is left.
 */
export async function refuseNobodyLeft(unit: Unit, what: string): Promise<void> {
  const canSignIn = await whoHasPassword(unit.manager);
  if (canSignIn.size === 0) return;
  const left = await unit.whoMay('managePeople', 'edit');
  if (left.some((id) => canSignIn.has(id))) return;
  throw new Problem(
    'conflict',
    `${what}, nobody who can sign in would look after people any more. Let somebody else do that first. Nothing was changed.`,
  );
}
