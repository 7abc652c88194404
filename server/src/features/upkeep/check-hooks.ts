import { IsNull } from 'typeorm';
import {
  leftOutInWords,
  readyUpkeepKeys,
  runnable,
  upkeepObjects,
  usualLimit,
  type Question,
} from '@zawn/core';
import { checkQuestion } from '@zawn/core/validation';
import { invalidInput, Problem } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** Kinds of its own that an organisation can look for: more would make the page a list of lists. */
const MOST_OWN = 40;

/** A kind of one's own asks a question about records that somebody owns, and has a name. */
async function checkOwn(unit: Unit, next: Values, check: Values): Promise<void> {
  if (!check.label) throw invalidInput([{ field: 'label', message: 'What is looked for is missing' }]);
  if (check.limit) throw invalidInput([{ field: 'limit', message: 'Limit: say it in the question' }]);
  if (next.question === undefined && check.question) return;
  const { text, value } = checkedJson(next.question ?? '', 'question', 'Question', (raw) =>
    checkQuestion(raw, unit.catalogue),
  );
  const { object, where, asOf }: Question = value;
  if (asOf !== undefined)
    throw invalidInput([
      { field: 'question', message: 'Question: it must ask for what is there now, not as it stood' },
    ]);
  if (!upkeepObjects.includes(object))
    throw invalidInput([
      { field: 'question', message: 'Question: it must ask about records that somebody owns' },
    ]);
  if (!where)
    throw invalidInput([
      { field: 'question', message: 'Question: it says nothing about which records are meant' },
    ]);
  const [lacking] = runnable(value, await unit.context()).leftOut;
  if (lacking) throw invalidInput([{ field: 'question', message: `Question: ${leftOutInWords(lacking)}` }]);
  next.question = text;
}

/** What it means to say what upkeep looks for. */
export const upkeepCheckHooks: RecordHooks = {
  object: 'upkeepCheck',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const check: Values = { ...before, ...next };
    const others = { deletedAt: IsNull(), kind: check.kind ?? IsNull() } as object;
    if (!before) {
      const known = await unit.manager.countBy('upkeepCheck', others);
      if (check.kind && known > 0)
        throw new Problem('conflict', 'Something is said about this kind already. Change it there.');
      if (!check.kind && known >= MOST_OWN)
        throw new Problem('conflict', `There are ${MOST_OWN} kinds of your own already. Remove one first.`);
    }
    if (!check.kind) return checkOwn(unit, next, check);
    if (!readyUpkeepKeys.includes(String(check.kind)))
      throw invalidInput([{ field: 'kind', message: 'Kind: there is no such kind' }]);
    if (check.question)
      throw invalidInput([{ field: 'question', message: 'Question: this kind has its own' }]);
    if (check.limit && usualLimit(String(check.kind)) === undefined)
      throw invalidInput([{ field: 'limit', message: 'Limit: this kind has none' }]);
  },
};
