import { type Choice, type FieldType } from '@zawn/core';
import { partsOf, type TargetKey } from '@zawn/core/imports';
import { keyFor, newChoice } from '../../kernel/records/new-choice';

/** Behind the organisation’s own fields made before. */
const LAST = 1000;

/** A custom field made from a column: named like it, its type and choices as its values suggest. */
export function customFieldFor(
  object: TargetKey,
  heading: string,
  type: FieldType,
  values: readonly string[],
): { object: TargetKey; key: string; label: string; type: FieldType; [more: string]: unknown } {
  const members = type === 'choices' ? values.flatMap(partsOf) : values.filter(Boolean);
  const different = [...new Set(members)];
  const choices = different.reduce<Choice[]>((made, label) => [...made, newChoice(label, made)], []);
  return {
    object,
    key: keyFor(heading),
    label: heading.slice(0, 60),
    type,
    ...(type === 'choice' || type === 'choices' ? { choices: JSON.stringify(choices) } : {}),
    required: false,
    position: LAST,
    retired: false,
  };
}
