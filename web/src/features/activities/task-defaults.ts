import { type AnyRecord } from '@zawn/core';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { useFirstWhen } from './when-input';

/** What a new task of one's own begins with. */
export function useTaskDefaults() {
  const { me, person } = useSession();
  const [{ taskDefaults }] = usePreferences();
  const first = useFirstWhen();
  const { name = '', when, priority = null, owner, description = '' } = taskDefaults ?? {};
  return {
    /** Its name: `{name}` in one's words is that of the record. */
    nameFor: (record: AnyRecord | undefined) =>
      record ? name.replaceAll('{name}', String(record.name ?? '')) : '',
    when: when ?? first,
    priority,
    // Who has left is given nothing any more.
    owner: owner != null && person(owner)?.active ? owner : me.id,
    description,
  };
}
