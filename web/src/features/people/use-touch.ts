import { type AnyRecord } from '@zawn/core';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';

/** Decides about the reminder to be in touch with a contact. */
export function useTouch() {
  const write = useWrite();
  return (contact: AnyRecord, action: 'notThisTime' | 'stop' | 'remind') =>
    write.mutate({
      method: 'POST',
      path: `${pathOf('contact', contact.id)}/touch`,
      version: contact.version,
      body: { do: action },
    });
}
