import { checkRule } from '@zawn/core/validation';
import { parseJson } from '../../platform/http/json-shape';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { parsedCondition } from './parsed-condition';
import { type Unit } from '../../kernel/records/unit';

const parsed = (text: unknown): unknown => {
  try {
    return parseJson(String(text));
  } catch (error) {
    if (error instanceof Problem) throw error;
    return undefined;
  }
};

async function checkPeople(unit: Unit, text: unknown): Promise<void> {
  const people = parsed(text);
  const isList = Array.isArray(people) && people.length > 0 && people.length <= 200;
  if (!isList || new Set(people).size !== people.length)
    throw invalidInput([
      { field: 'people', message: 'Who takes turns must be at least one person, each once' },
    ]);
  const there = await unit.visible('person', people.map(Number));
  if (there.size !== people.length)
    throw invalidInput([{ field: 'people', message: 'Who takes turns: somebody is not there' }]);
}

/** What writing an assignment rule means: its condition is a question about leads, and it gives to somebody. */
export const assignmentRuleHooks: RecordHooks = {
  object: 'assignmentRule',
  async beforeWrite(unit, next, before) {
    const rule: Values = { ...before, ...next };
    if (next.condition) {
      const where = parsedCondition(next.condition);
      const { faults } = checkRule({ version: 1, object: 'lead', where }, unit.catalogue);
      if (faults.length > 0)
        throw invalidInput(
          faults.map(({ message }) => ({ field: 'condition', message: `Condition: ${message}` })),
        );
    }
    if (rule.to === 'person' && typeof rule.person !== 'number')
      throw invalidInput([{ field: 'person', message: 'Who gets the lead is missing' }]);
    if (rule.to === 'turns') await checkPeople(unit, rule.people);
  },
};
