import {
  fieldAt,
  isGroup,
  isRelated,
  pathsOfTest,
  relationOf,
  runnable,
  scoredFields,
  stepsOf,
  type Catalogue,
  type Condition,
  type ObjectKey,
} from '@zawn/core';
import { checkRule, type Checked } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** Whether a condition asks about the score itself, on the lead or on one that is linked: it would never come to rest. */
function asksAboutScore(catalogue: Catalogue, object: ObjectKey, condition: Condition): boolean {
  if (isGroup(condition)) return condition.of.some((each) => asksAboutScore(catalogue, object, each));
  const endsAtScore = (from: ObjectKey, path: string) => {
    const last = stepsOf(catalogue, from, path)?.at(-1);
    return last?.object === 'lead' && scoredFields.includes(last.key);
  };
  if (!isRelated(condition)) return pathsOfTest(condition).some((path) => endsAtScore(object, path));
  const { via, related, figure, where } = condition;
  const hub = via === undefined ? object : (fieldAt(catalogue, object, via)?.to as ObjectKey | undefined);
  const relation = hub && relationOf(catalogue, hub, related);
  if (!relation) return false;
  return (
    (figure?.of !== undefined && endsAtScore(relation.object, figure.of)) ||
    (where !== undefined && asksAboutScore(catalogue, relation.object, where))
  );
}

/** What writing a score rule means: its condition is a question about leads that can be answered without the score. */
export const scoreRuleHooks: RecordHooks = {
  object: 'scoreRule',
  beforeWrite({ catalogue }, next) {
    if (next.points === 0)
      throw invalidInput([{ field: 'points', message: 'Points: give some, or take some away' }]);
    if (next.condition === undefined) return Promise.resolve();
    const check = (raw: unknown): Checked<Condition> => {
      const { value, faults } = checkRule({ version: 1, object: 'lead', where: raw }, catalogue);
      if (value?.where === undefined)
        return { value: undefined, faults: faults.map(({ message }) => ({ field: '', message })) };
      const question = { version: 1 as const, object: 'lead' as const, where: value.where };
      const [gone] = runnable(question, { catalogue, lists: [] }).leftOut.filter(
        ({ reason }) => reason === 'unknownField',
      );
      if (gone)
        return { value: undefined, faults: [{ field: '', message: `There is no field ${gone.part}` }] };
      if (asksAboutScore(catalogue, 'lead', value.where))
        return {
          value: undefined,
          faults: [{ field: '', message: 'A score rule cannot ask about the score' }],
        };
      return { value: value.where, faults: [] };
    };
    next.condition = checkedJson(next.condition, 'condition', 'Condition', check).text;
    return Promise.resolve();
  },
};
