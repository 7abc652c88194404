import Joi from 'joi';
import { activityParts, outcomeCounts, type Choice, type ChoiceList } from '../catalogue';
import { checkAgainst, type Checked, type Fault } from './record-schema';

const MOST_CHOICES = 200;

/** What a list allows to be said of its choices; nothing for the choices of a custom field. */
type Allowed = Pick<ChoiceList, 'details' | 'kinds' | 'fixed'>;

function schemaFor({ details = [], kinds = [] }: Allowed) {
  const detail: Record<string, Joi.Schema> = {
    kind: Joi.string()
      .valid(...kinds.map(({ key }) => key))
      .required()
      .label('Kind'),
    days: Joi.number().integer().min(1).max(3650).label('Days'),
    icon: Joi.string().max(30).label('Icon'),
    touch: Joi.string().valid('out', 'in').label('Touch'),
    has: Joi.array()
      .items(Joi.string().valid(...activityParts))
      .min(1)
      .unique()
      .label('Has'),
    types: Joi.array().items(Joi.string().max(60)).min(1).unique().label('Types'),
    counts: Joi.array()
      .items(Joi.string().valid(...outcomeCounts))
      .min(1)
      .unique()
      .label('Counts as'),
    next: Joi.object({
      name: Joi.string().trim().max(200).required().label('Next step'),
      days: Joi.number().integer().min(0).max(365).required().label('Days until the next step'),
    }).label('Next step'),
  };
  const choice = Joi.object({
    key: Joi.string()
      .pattern(/^[A-Za-z0-9][A-Za-z0-9_-]{0,59}$/)
      .required()
      .label('Key'),
    label: Joi.string().trim().max(60).required().label('Label'),
    retired: Joi.valid(true),
    ...Object.fromEntries(details.map((each) => [each, detail[each]])),
  });
  return Joi.array()
    .items(choice)
    .min(1)
    .max(MOST_CHOICES)
    .unique('key')
    .required()
    .label('Choices')
    .messages({
      'array.unique': 'Two choices have the same key',
      'array.min': 'There must be at least one choice',
      'string.empty': '{#label} is missing',
      'any.required': '{#label} is missing',
    });
}

/**
 * Checks the choices of a list or of a field: each with a label of its own, none gone that records may hold, and
 * what Zawn relies on still to be chosen.
 * @param before the choices as they are; empty for a new field.
 */
export function checkChoices(
  value: unknown,
  allowed: Allowed = {},
  before: readonly Choice[] = [],
): Checked<Choice[]> {
  const checked = checkAgainst<Choice[]>(schemaFor(allowed) as Joi.Schema<Choice[]>, value);
  if (!checked.value) return checked;
  const now = new Map(checked.value.map((choice) => [choice.key, choice]));
  const faults: string[] = [];
  const labels = new Set<string>();
  for (const { label, retired } of checked.value) {
    const name = label.toLowerCase();
    if (!retired && labels.has(name)) faults.push(`“${label}” stands there twice`);
    if (!retired) labels.add(name);
  }
  for (const { key, label } of before)
    if (!now.has(key)) faults.push(`Retire “${label}” instead of taking it out: records may hold it`);
  for (const key of allowed.fixed ?? [])
    if (!now.has(key) || now.get(key)?.retired)
      faults.push(`“${now.get(key)?.label ?? key}” is needed and cannot be retired`);
  if (labels.size === 0) faults.push('At least one choice must be left to choose');
  return faults.length > 0
    ? { value: undefined, faults: faults.map((message): Fault => ({ field: '', message })) }
    : { value: checked.value, faults: [] };
}
