import { type AnyRecord, type FieldValue, type Preferences } from '@zawn/core';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { useFirstWhen } from './first-when';

/** Who a new task of one's own is for: whoever has left is given nothing any more. */
const ownerIn = (
  { taskDefaults }: Preferences,
  { me, person }: Pick<ReturnType<typeof useSession>, 'me' | 'person'>,
): number => {
  const owner = taskDefaults?.owner;
  return owner != null && person(owner)?.active ? owner : me.id;
};

/** The fields that a new task of one's own begins with, beside its name and when it is due. */
export const taskBegins = (
  session: ReturnType<typeof useSession>,
  preferences: Preferences,
): Record<string, FieldValue> => ({
  owner: ownerIn(preferences, session),
  priority: preferences.taskDefaults?.priority ?? null,
  description: preferences.taskDefaults?.description ?? null,
});

/** What a new task of one's own begins with. */
export function useTaskDefaults() {
  const session = useSession();
  const [preferences] = usePreferences();
  const first = useFirstWhen();
  const { name = '', when, priority = null, description = '' } = preferences.taskDefaults ?? {};
  return {
    /** Its name: `{name}` in one's words is that of the record. */
    nameFor: (record: AnyRecord | undefined) =>
      record ? name.replaceAll('{name}', String(record.name ?? '')) : '',
    when: when ?? first,
    priority,
    owner: ownerIn(preferences, session),
    description,
  };
}
