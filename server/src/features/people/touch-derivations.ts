import { dayIn, fieldOf, touchDueOn, type Day } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { writeDerived, type Derivation } from '../../kernel/records/derivation';
import { latest } from './touches';

interface KeptContact {
  id: number;
  createdAt: string;
  relationship: string | null;
  lastTouchAt: string | null;
  touchDueOn: Day | null;
  touchSinceOn: Day | null;
  touchStopped: 0 | 1 | null;
}

/** When we were last in touch with a contact, and by when we want to be again. */
export const contactDerivation: Derivation = {
  object: 'contact',
  restsOn: ['choiceList'],

  async derive({ manager, catalogue, timeZone }, ids) {
    const relationships = fieldOf(catalogue, 'contact', 'relationship')?.choices ?? [];
    const days = new Map(relationships.map(({ key, days: every }) => [key, every]));
    const contacts = dialect.rows<KeptContact>(
      manager,
      'contact',
      ['id', 'createdAt', 'relationship', 'lastTouchAt', 'touchDueOn', 'touchSinceOn', 'touchStopped'],
      ids,
    );
    const last = await latest(manager, 'contact', ids);
    for (const contact of contacts) {
      const at = last.get(contact.id) ?? null;
      const due = touchDueOn({
        lastOn: at && dayIn(timeZone, at),
        sinceOn: contact.touchSinceOn,
        knownOn: dayIn(timeZone, contact.createdAt),
        every: days.get(String(contact.relationship)),
        isStopped: contact.touchStopped === 1,
      });
      if (contact.lastTouchAt !== at || contact.touchDueOn !== due)
        writeDerived({ manager }, 'contact', contact.id, { lastTouchAt: at, touchDueOn: due });
    }
  },
};

/** When anybody was last in touch with somebody at an account. */
export const accountDerivation: Derivation = {
  object: 'account',

  async derive({ manager }, ids) {
    const accounts = dialect.rows<Pick<KeptContact, 'id' | 'lastTouchAt'>>(
      manager,
      'account',
      ['id', 'lastTouchAt'],
      ids,
    );
    const last = await latest(manager, 'account', ids);
    for (const { id, lastTouchAt } of accounts) {
      const at = last.get(id) ?? null;
      if (lastTouchAt !== at) writeDerived({ manager }, 'account', id, { lastTouchAt: at });
    }
  },
};
