import { type INestApplicationContext } from '@nestjs/common';
import { ask, type Actor } from '@zawn/core';
import { Gate } from '@zawn/server/dist/kernel/questions/gate';
import { Door } from '@zawn/server/dist/kernel/records/door';

const NAME = 'The account that everybody works on';
/** Entries of its story: as many done activities as notes. */
export const ENTRIES = 5000;

/** An account with a long story, made once in the large set and found again afterwards. */
export async function busyAccount(
  app: INestApplicationContext,
  actor: Actor,
  today: string,
): Promise<number> {
  const question = ask('account', { field: 'name', is: 'is', value: NAME });
  const { rows } = await app.get(Gate).records(actor, question, { offset: 0, limit: 1 });
  if (rows.length > 0) return rows[0].id;
  const { value } = await app.get(Door).write({ actor, through: 'hand' }, async (unit) => {
    const owner = actor.personId;
    const account = await unit.create('account', { name: NAME, owner });
    for (let at = 0; at < ENTRIES / 2; at += 1) {
      const doneAt = new Date(Date.parse(`${today}T12:00:00Z`) - at * 3_600_000).toISOString();
      const call = { kind: 'call', dueOn: doneAt.slice(0, 10), doneAt, doneBy: owner, outcome: null };
      await unit.create('activity', { name: `Call ${at}`, account: account.id, owner, ...call }, 'feature');
      await unit.create(
        'note',
        { body: `What was said in call ${at}`, account: account.id, owner },
        'feature',
      );
    }
    return account.id;
  });
  return value;
}
