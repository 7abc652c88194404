import Joi from 'joi';
import { fieldOf, offered, type Catalogue } from '../../kernel/catalogue';
import { isAskable, MOST_FORM_FIELDS, type FormDesign } from '.';
import { checkAgainst, type Checked } from '../../kernel/validation/record-schema';

const words = (most: number) => Joi.string().trim().max(most);

const schema = Joi.object<FormDesign>({
  heading: words(120).required().label('Heading'),
  intro: words(1000).allow('').required().label('Introduction'),
  fields: Joi.array()
    .items(
      Joi.object({
        key: Joi.string().max(60).required(),
        label: words(120),
        help: words(300),
        required: Joi.valid(true),
      }),
    )
    .min(1)
    .max(MOST_FORM_FIELDS)
    .unique('key')
    .required()
    .label('Fields'),
  consent: Joi.object({ text: words(1000).required().label('Consent'), required: Joi.valid(true) }),
  button: words(40).required().label('Button'),
  thanks: words(1000).required().label('Thank-you text'),
  closed: words(1000).required().label('Text while paused'),
  sets: Joi.object({
    source: Joi.string().max(60),
    campaign: words(200),
    tags: Joi.array().items(words(40).required()).max(20).unique(),
  }).required(),
}).label('Form');

/** Checks a form's design: its texts, and that it asks only for what a lead has and visitors can know. */
export function checkForm(value: unknown, catalogue: Catalogue): Checked<FormDesign> {
  const checked = checkAgainst<FormDesign>(schema, value);
  if (!checked.value) return checked;
  const { fields, sets } = checked.value;
  const faults = fields
    .filter(({ key }) => {
      const field = fieldOf(catalogue, 'lead', key);
      return !field || !isAskable(key, field);
    })
    .map(({ key }) => ({ field: 'fields', message: `A form cannot ask for “${key}”` }));
  if (!fields.some(({ key, required }) => key === 'name' && required))
    faults.push({ field: 'fields', message: 'A form has to ask for the name: a lead cannot be without one' });
  const sources = offered(fieldOf(catalogue, 'lead', 'source')?.choices);
  if (sets.source !== undefined && !sources.some(({ key }) => key === sets.source))
    faults.push({ field: 'sets', message: `There is no source “${sets.source}”` });
  return faults.length > 0 ? { value: undefined, faults } : checked;
}
