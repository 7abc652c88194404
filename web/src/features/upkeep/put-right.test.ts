import { fieldOf, objectType, builtIn, upkeepKindsOf, upkeepQuestion } from '@zawn/core';
import { features } from '..';

describe('what upkeep finds', () => {
  it.each(upkeepKindsOf([]).map((kind) => [kind.label, kind] as const))(
    '%s: has what is missing first beside its name, to be put right there',
    (_label, { of, where, fields }) => {
      const { object } = upkeepQuestion(of, where);
      const [missing] = fields;
      const asked = features.flatMap(({ cells }) => cells ?? []);
      const isAsked = asked.some(
        (cell) => (cell.objects as readonly string[]).includes(object) && cell.fields.includes(missing),
      );
      const field = fieldOf(builtIn, object, missing);
      expect(objectType(object).nameField).not.toBe(missing);
      expect((field?.set ?? 'edit') === 'edit' || isAsked).toBe(true);
    },
  );
});
