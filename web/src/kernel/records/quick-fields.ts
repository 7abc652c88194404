import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, fieldsOf, isSubject, type Catalogue, type ObjectKey, type RecordOf } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';
import { useSession } from '../../platform/sessions/session';
import { layouts } from './layouts';

const QUICK_ADDS = ask('quickAdd');

/** What the short form asks for where nobody has said. */
export const usualFields = (object: ObjectKey): readonly string[] =>
  isSubject(object) ? layouts[object].quickAdd : ['name', 'owner'];

/**
 * The fields of the short form: those that were chosen and are still there, and with them whatever a new record
 * cannot do without and does not begin with.
 */
export function quickFields(
  catalogue: Catalogue,
  object: ObjectKey,
  chosen: readonly string[],
  begunWith: readonly string[],
): string[] {
  const kept = chosen.filter((key) => fieldOf(catalogue, object, key) !== undefined);
  const needed = fieldsOf(catalogue, object)
    .filter(([, { required, set = 'edit' }]) => required && (set === 'edit' || set === 'once'))
    .filter(([, { joinedFrom = [] }]) => !joinedFrom.some((part) => kept.includes(part)))
    .map(([key]) => key)
    .filter((key) => !kept.includes(key) && !begunWith.includes(key));
  return [...kept, ...needed];
}

/** How a short form was set up, by a record of its own or as usual. */
export interface QuickAdd {
  own?: RecordOf<'quickAdd'>;
  chosen: readonly string[];
}

/** How the short form of an object was set up; undefined while that is not known yet. */
export function useQuickAdd(object: ObjectKey): QuickAdd | undefined {
  const { catalogue } = useSession();
  const { data } = useQuery(allRecords(QUICK_ADDS));
  if (!data) return undefined;
  const own = (data.rows as unknown as RecordOf<'quickAdd'>[]).find((each) => each.object === object);
  const chosen = own ? (JSON.parse(own.fields) as string[]) : usualFields(object);
  return { own, chosen: chosen.filter((key) => fieldOf(catalogue, object, key) !== undefined) };
}
