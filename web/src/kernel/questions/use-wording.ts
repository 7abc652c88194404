import { useQuery } from '@tanstack/react-query';
import { isObjectKey, objectType, type Names, type ObjectKey, type Wording } from '@zawn/core';
import { useMemo } from 'react';
import { savedViews } from '../../platform/api/queries';
import { date, money } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

/** Says questions in words, with the names of people, stages, lists, and of records as far as they are given. */
export function useWording(names: Names = {}): Wording {
  const { person, stage, pipelines, teams, organisation, catalogue } = useSession();
  const { data } = useQuery(savedViews);
  return useMemo(() => {
    const nameOf = (object: ObjectKey, id: number): string => {
      if (object === 'person') return person(id)?.name ?? 'someone who left';
      if (object === 'stage') return stage(id)?.name ?? 'a stage that is gone';
      if (object === 'pipeline')
        return pipelines.find((each) => each.id === id)?.name ?? 'a pipeline that is gone';
      if (object === 'team') return teams.find((each) => each.id === id)?.name ?? 'a team that is gone';
      const label = isObjectKey(object) ? objectType(object).label.toLowerCase() : object;
      return names[object]?.[id] ?? `${label} ${id}`;
    };
    return {
      catalogue,
      nameOf,
      listName: (id) => data?.lists.find((list) => list.id === id)?.name ?? 'a list that is gone',
      day: date,
      money: (amount, currency = organisation.currency) => money(amount, currency),
    };
  }, [person, stage, pipelines, teams, organisation, catalogue, data, names]);
}
