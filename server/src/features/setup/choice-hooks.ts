import { IsNull } from 'typeorm';
import { choiceListOf, choicesIn, type ChoiceListKey } from '@zawn/core';
import { checkChoices } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What writing a list of choices means: there is one of each, and nothing that records hold is lost from it. */
export const choiceListHooks: RecordHooks = {
  object: 'choiceList',
  async beforeWrite(unit, next, before) {
    const key = (before?.list ?? next.list) as ChoiceListKey;
    const list = choiceListOf(key);
    if (!before) {
      next.name = list.label;
      if ((await unit.manager.countBy('choiceList', { list: key, deletedAt: IsNull() })) > 0)
        throw invalidInput([{ field: 'list', message: `${list.label} are the organisation’s own already` }]);
    }
    if (next.choices === undefined) return;
    const known = before ? choicesIn(String(before.choices)) : list.choices;
    const check = (raw: unknown) => checkChoices(raw, list, known);
    next.choices = checkedJson(next.choices, 'choices', 'Choices', check).text;
  },
};
