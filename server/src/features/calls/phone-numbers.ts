import { Injectable } from '@nestjs/common';
import { objectType, type Actor, type SubjectKey } from '@zawn/core';
import { normalisePhone } from '@zawn/core/phone';
import { type PhoneCallRow } from '../../platform/database/rows';
import { invalidInput } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';

/** Whom a call is with. */
export type On = Pick<PhoneCallRow, 'object' | 'record'>;
export const NOBODY: On = { object: null, record: null };

/** The fields that hold numbers, by the objects that have some. */
const NUMBERS: Readonly<Record<SubjectKey, readonly string[]>> = {
  contact: ['phone', 'mobile'],
  lead: ['phone'],
  account: ['phone'],
  deal: [],
};

/** Which number somebody has, and who has a number, as far as the person asking sees them. */
@Injectable()
export class PhoneNumbers {
  constructor(
    private readonly gate: Gate,
    private readonly organisation: Organisation,
  ) {}

  /** @throws Problem `invalid-input` for what is no number. */
  async callable(given: string): Promise<string> {
    const { country } = await this.organisation.settings();
    const number = normalisePhone(given, country);
    if (number === undefined)
      throw invalidInput([{ field: 'number', message: `“${given}” is no number that can be called` }]);
    return number;
  }

  /** The first number of whom something is about: of a deal that of its contact, or else of its account. */
  async numberOf(actor: Actor, { object, record }: On): Promise<string> {
    const missing = (what: string) =>
      invalidInput([{ field: 'number', message: `${what} has no phone number on file` }]);
    if (object === null || record === null) throw missing('This');
    const found = await this.gate.find(actor, object as SubjectKey, record);
    const number = NUMBERS[object as SubjectKey].map((field) => found[field]).find(Boolean);
    if (number) return this.callable(String(number));
    for (const key of ['contact', 'account'] as const)
      if (object === 'deal' && typeof found[key] === 'number') {
        const [behind] = (await this.gate.visibleStored(actor, key, [found[key]])).values();
        const its = NUMBERS[key].map((field) => behind?.[field]).find(Boolean);
        if (its) return this.callable(String(its));
      }
    throw missing(String(found[objectType(object as SubjectKey).nameField]));
  }

  /** Whoever of those the person sees has a number; nobody where several have it. */
  async whoHas(actor: Actor, number: string): Promise<On> {
    for (const object of ['contact', 'lead', 'account'] as const) {
      const found = await Promise.all(
        NUMBERS[object].map((field) => this.gate.holding(actor, object, field, [number])),
      );
      const [one, ...more] = new Set(found.flat().map(({ id }) => id));
      if (more.length > 0) return NOBODY;
      if (one) return { object, record: one };
    }
    return NOBODY;
  }
}
