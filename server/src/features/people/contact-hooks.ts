import { completeName } from '@zawn/core';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What writing a contact means: its name is one with its first and last name. */
export const contactHooks: RecordHooks = {
  object: 'contact',
  beforeWrite(_, next, before) {
    completeName(next, before);
    return Promise.resolve();
  },
};
