import { type Choice, type ChoiceListKey } from '@zawn/core';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { newChoice } from './new-choice';

/**
 * Adds a choice to one of the organisation's lists, where it is missed.
 * @returns what adds it and hands over its key, or that of the one there is of that name; undefined for those who may not.
 */
export function useNewChoice(list: ChoiceListKey, choices: readonly Choice[]) {
  const { policy, choiceLists } = useSession();
  const write = useWrite();
  if (!policy.may('setUpFields')) return undefined;
  const add = (label: string, take: (key: string) => void) => {
    const text = label.trim();
    const same = choices.find((choice) => choice.label.toLowerCase() === text.toLowerCase());
    if (same) return take(same.key);
    const added = newChoice(text, choices);
    const own = choiceLists.find((each) => each.list === list);
    const body = { choices: JSON.stringify([...choices, added]) };
    write.mutate(
      own
        ? { method: 'PATCH', path: `/choice-lists/${own.id}`, version: own.version, body }
        : { method: 'POST', path: '/choice-lists', body: { list, ...body } },
      { onSuccess: () => take(added.key) },
    );
  };
  return { add, isBusy: write.isPending };
}
