import { choicesIn } from './choice-lists';
import { type Field, type Fields, type FieldType } from './field';

/** Keys of custom fields begin with this, so that they never meet a built-in one, now or later. */
const PREFIX = 'x_';

/** Whether a field's key is one of the organisation's own fields. */
export function isCustomKey(key: string): boolean {
  return key.startsWith(PREFIX);
}

/** Whether a text can be the key of a custom field: `x_berths`. */
export function isValidCustomKey(key: string): boolean {
  return /^x_[a-z][A-Za-z0-9]{0,39}$/.test(key);
}

/** What the catalogue needs to know of a field of the organisation's own. */
interface OwnField {
  label: string;
  type: string;
  to: string | null;
  required: boolean;
  help: string | null;
  section: string | null;
  /** As JSON, as are the choices. */
  preset: string | null;
  choices: string | null;
}

/**
 * What the catalogue says of a custom field. Money stands in the record's own currency where it has one,
 * otherwise in the reporting currency.
 */
export function fieldFor(custom: OwnField, siblings: Fields): Field {
  const isFile = custom.type === 'file';
  const type = isFile ? 'link' : (custom.type as FieldType);
  const to = isFile ? 'file' : (custom.to ?? 'person');
  return {
    label: custom.label,
    type,
    ...(custom.required ? { required: true as const } : {}),
    ...(custom.help ? { help: custom.help } : {}),
    section: custom.section ?? 'More',
    ...(custom.preset ? { preset: JSON.parse(custom.preset) as Field['preset'] } : {}),
    ...(type === 'choice' || type === 'choices' ? { choices: choicesIn(custom.choices) } : {}),
    ...(type === 'link' ? { to } : {}),
    // A cell can name a person, but no other record for certain.
    ...(type === 'link' && to !== 'person' ? { notImported: true as const } : {}),
    ...(type === 'money' ? besideMoney(siblings) : {}),
    ...(type === 'number' ? { fraction: true as const } : {}),
  };
}

/** What an amount of one's own has in common with the record's other amounts: its currency, and the day of its rate. */
function besideMoney(siblings: Fields): Pick<Field, 'currency' | 'convertedOn'> {
  if (!Object.hasOwn(siblings, 'currency')) return {};
  const others = Object.values(siblings).filter(({ type }) => type === 'money');
  const [convertedOn] = others.flatMap((field) => field.convertedOn ?? []);
  return { currency: 'currency', ...(convertedOn ? { convertedOn } : {}) };
}

/** Whether a field holds a file: a link to one that was put on the record. */
export function holdsFile({ type, to }: Pick<Field, 'type' | 'to'>): boolean {
  return type === 'link' && to === 'file';
}
