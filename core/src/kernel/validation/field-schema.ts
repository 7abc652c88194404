import Big from 'big.js';
import Joi from 'joi';
import { maxLengthOf, offered, type Choice, type Field, type FieldType, type FieldValue } from '../catalogue';
import { isCurrency } from '../../platform/money';
import {
  countryCode,
  normaliseLongText,
  normaliseMail,
  normalisePhone,
  normaliseText,
  normaliseWeb,
} from '../../platform/normalise';
import { isDay } from '../../platform/time';

/** What a value is normalised by. */
export interface Locale {
  /** ISO 3166 code that a phone number without prefix belongs to. */
  country: string;
}

/** Money and counts stay within what a double holds exactly. */
const LARGEST = 9_000_000_000_000_000;

/**
 * How faults are said. Given once to the whole record: on each field they would be worked through again with every
 * value that is checked.
 */
export const fieldMessages = {
  'any.required': '{#label} is missing',
  'any.only': '{#label} is not one of the choices',
  'string.empty': '{#label} is missing',
  'string.base': '{#label} must be text',
  'string.max': '{#label} is longer than {#limit} characters',
  'string.isoDate': '{#label} is not a point in time (ISO 8601)',
  'string.pattern.base': '{#label} is not a time (HH:MM)',
  'number.base': '{#label} must be a number',
  'number.min': '{#label} must be at least {#limit}',
  'number.max': '{#label} must be at most {#limit}',
  'number.unsafe': '{#label} is too large',
  'number.integer': '{#label} must be whole',
  'array.base': '{#label} must be a list of values',
  'array.max': '{#label} takes at most {#limit} values',
};

/** How a kind of text is brought into its normal form. */
interface Rewriting {
  /** @returns null when nothing is left, undefined when the text is none of its kind. */
  to: (text: string, locale: Locale) => string | null | undefined;
  /** What is wrong then, as it is said after the field's label. */
  complaint: string;
}

const rewritings = {
  text: { to: normaliseText, complaint: '' },
  longText: { to: normaliseLongText, complaint: '' },
  email: { to: normaliseMail, complaint: 'is not an email address' },
  phone: {
    to: (text: string, { country }: Locale) => normalisePhone(text, country),
    complaint: 'is not a phone number',
  },
  web: { to: normaliseWeb, complaint: 'is not a web address' },
  country: { to: countryCode, complaint: 'is not a country' },
  currency: {
    to: (text: string) => (isCurrency(text.toUpperCase()) ? text.toUpperCase() : undefined),
    complaint: 'is not a currency code such as GBP',
  },
  date: { to: (text: string) => (isDay(text) ? text : undefined), complaint: 'is not a date (YYYY-MM-DD)' },
} satisfies Partial<Record<FieldType, Rewriting>>;

const isRewritten = (type: FieldType): type is keyof typeof rewritings => type in rewritings;

/** A text rule that rewrites the value, or refuses it with a sentence that starts with the field's label. */
function rewritten(field: Field, locale: Locale, { to, complaint }: Rewriting) {
  return Joi.string()
    .max(maxLengthOf(field))
    .custom((text: string, helpers) => {
      const value = to(text, locale);
      if (value === null) return field.required ? helpers.error('string.empty') : undefined;
      return value === undefined ? helpers.message({ custom: `{#label} ${complaint}` }) : value;
    });
}

/**
 * The normal form of a text by the rule of its field, without the rule itself, which takes ten times as long over it.
 * @returns undefined when the rule has to say more: it is no text that this field takes, or another kind of field.
 */
export function normalText(field: Field, text: FieldValue, locale: Locale): string | undefined {
  if (typeof text !== 'string' || text.length > maxLengthOf(field)) return undefined;
  const rewriting: Rewriting | undefined = isRewritten(field.type) ? rewritings[field.type] : undefined;
  return rewriting?.to(text, locale) ?? undefined;
}

/** Members a field of several can hold. */
export const MOST_MEMBERS = 50;

/** Several values without repeats, in the order of their letters, so that equal sets are equal values. */
function members(each: Joi.Schema): Joi.Schema {
  return Joi.array()
    .items(each)
    .max(MOST_MEMBERS)
    .custom((values: string[]) =>
      values.length === 0 ? undefined : [...new Set(values)].sort((a, b) => (a < b ? -1 : 1)),
    );
}

const tag = Joi.string()
  .max(40)
  .custom((text: string, helpers) => normaliseText(text) ?? helpers.error('string.empty'))
  .messages({ 'string.max': 'A tag is at most {#limit} characters long', 'string.empty': 'A tag is empty' });

/** One of these choices; of none, nothing is. */
const oneOf = (takes: readonly Choice[]) =>
  takes.length > 0
    ? Joi.string().valid(...takes.map(({ key }) => key))
    : Joi.string().custom((_value, helpers) => helpers.error('any.only'));

/** Lets a number through that has no more digits behind the point than are kept. */
const withDigits =
  (most: number): Joi.CustomValidator<number> =>
  (value, helpers) =>
    new Big(value).round(most).eq(value)
      ? value
      : helpers.message({ custom: `{#label} takes at most ${most} digits behind the point` });

function typed(field: Field, locale: Locale, takes: readonly Choice[]): Joi.Schema {
  const { type } = field;
  if (isRewritten(type)) return rewritten(field, locale, rewritings[type]);
  switch (type) {
    case 'time':
      return Joi.string().pattern(/^([01]\d|2[0-3]):[0-5]\d$/);
    case 'dateTime':
      return Joi.string().isoDate();
    case 'choice':
      return oneOf(takes);
    case 'choices':
      return members(oneOf(takes).label(field.label));
    case 'tags':
      return members(tag.label(field.label));
    case 'lists':
      return Joi.forbidden();
    case 'yesNo':
      return Joi.boolean().strict();
    case 'link':
      return Joi.number().integer().positive().max(LARGEST);
    case 'number':
    case 'percent':
    case 'money': {
      const number = (field.fraction ? Joi.number() : Joi.number().integer())
        .min(field.min ?? -LARGEST)
        .max(field.max ?? LARGEST);
      if (field.digits !== undefined) return number.custom(withDigits(field.digits));
      return field.type === 'money'
        ? number.messages({ 'number.integer': '{#label} must be whole minor units' })
        : number;
    }
  }
}

/** The rule for one field's value, which also brings it into its normal form. An empty optional value becomes undefined. */
export function fieldSchema(field: Field, locale: Locale, takesRetired = false): Joi.Schema {
  const takes = takesRetired ? (field.choices ?? []) : offered(field.choices);
  const schema = typed(field, locale, takes).label(field.label);
  return field.required ? schema : schema.empty(Joi.valid('', null));
}
