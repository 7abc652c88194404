import { useQuery } from '@tanstack/react-query';
import { ask, byClock, type AnyRecord, type Question, type SubjectKey } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';
import { type Due } from './work-line';

/** The question for everything still open on a record, the earliest first. */
export const openOn = (object: SubjectKey, id: number): Question => ({
  ...ask('activity', { field: object, is: 'anyOf', value: [id] }, { field: 'doneAt', is: 'isEmpty' }),
  sort: [{ field: 'dueOn' }, { field: 'dueAt' }],
});

/**
 * Everything still open about a record, those included that are about it beside others, in the order to work it;
 * undefined until it is known.
 */
export function useOpenOn(object: SubjectKey, id: number): AnyRecord[] | undefined {
  const own = useQuery(allRecords(openOn(object, id)));
  const further = useQuery(
    allRecords(
      ask(
        'activityLink',
        { field: object, is: 'anyOf', value: [id] },
        { field: 'activity.doneAt', is: 'isEmpty' },
      ),
    ),
  );
  const ids = (further.data?.rows ?? []).map(({ activity }) => Number(activity));
  const linked = useQuery({
    ...allRecords(ask('activity', { field: 'id', is: 'anyOf', value: ids })),
    enabled: ids.length > 0,
  });
  if (!own.data) return undefined;
  const all = [...own.data.rows, ...(ids.length > 0 ? (linked.data?.rows ?? []) : [])] as Due[];
  return [...new Map(all.map((each) => [each.id, each])).values()].toSorted(byClock);
}
