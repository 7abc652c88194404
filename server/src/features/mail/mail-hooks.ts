import { normaliseMail } from '@zawn/core/validation';
import { checkAlone, checkRecipient } from '../forms/form-hooks';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What writing a capture address means: it goes to somebody, and no other has the same address. */
export const captureAddressHooks: RecordHooks = {
  object: 'captureAddress',
  async beforeWrite(unit, next, before) {
    checkRecipient({ ...before, ...next });
    if (next.address === undefined) return;
    await checkAlone(unit, 'captureAddress', 'address', next, before?.id);
    const people = await unit.manager.find<{ id: number; email: string }>('person');
    if (people.some(({ email }) => normaliseMail(email) === next.address))
      throw invalidInput([{ field: 'address', message: 'Address: this is a colleague’s own' }]);
  },
};

/** An email is as it came in or went out: nobody makes one up. */
export const mailHooks: RecordHooks = {
  object: 'mail',
  beforeWrite(unit, _, before) {
    if (!before && unit.through !== 'mail')
      throw new Problem('not-allowed', 'Emails come in by email, or as files that are dropped in.');
    return Promise.resolve();
  },
};
