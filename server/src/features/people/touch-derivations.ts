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

  async derive(at, ids) {
    const { manager, catalogue, timeZone } = at;
    const relationships = fieldOf(catalogue, 'contact', 'relationship')?.choices ?? [];
    const days = new Map(relationships.map(({ key, days: every }) => [key, every]));
    const contacts = dialect.rows<KeptContact>(
      manager,
      'contact',
      ['id', 'createdAt', 'relationship', 'lastTouchAt', 'touchDueOn', 'touchSinceOn', 'touchStopped'],
      ids,
    );
    const last = await latest(at, 'contact', ids);
    for (const contact of contacts) {
      const touched = last.get(contact.id) ?? null;
      const due = touchDueOn({
        lastOn: touched && dayIn(timeZone, touched),
        sinceOn: contact.touchSinceOn,
        knownOn: dayIn(timeZone, contact.createdAt),
        every: days.get(String(contact.relationship)),
        isStopped: contact.touchStopped === 1,
      });
      if (contact.lastTouchAt !== touched || contact.touchDueOn !== due)
        writeDerived(at, 'contact', contact.id, { lastTouchAt: touched, touchDueOn: due });
    }
  },
};

/** When anybody was last in touch with somebody at an account. */
export const accountDerivation: Derivation = {
  object: 'account',
  restsOn: ['choiceList'],

  async derive(at, ids) {
    const accounts = dialect.rows<Pick<KeptContact, 'id' | 'lastTouchAt'>>(
      at.manager,
      'account',
      ['id', 'lastTouchAt'],
      ids,
    );
    const last = await latest(at, 'account', ids);
    for (const { id, lastTouchAt } of accounts) {
      const touched = last.get(id) ?? null;
      if (lastTouchAt !== touched) writeDerived(at, 'account', id, { lastTouchAt: touched });
    }
  },
};
