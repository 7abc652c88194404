import Joi from 'joi';
import { type Catalogue } from '../catalogue';
import { drawings, type Design } from '../views';
import { checkQuestion } from './question-schema';
import { checkAgainst, type Checked } from './record-schema';

const schema = Joi.object({
  question: Joi.object().unknown().required(),
  draw: Joi.string()
    .valid(...drawings)
    .required(),
  drawn: Joi.number().integer().min(0).max(9),
  rounding: Joi.string().valid('thousands', 'millions'),
  widths: Joi.object().pattern(Joi.string().max(100), Joi.number().integer().min(40).max(2000)).max(60),
}).label('View');

/** Checks a design that came from outside, its question included. */
export function checkDesign(value: unknown, catalogue: Catalogue): Checked<Design> {
  const checked = checkAgainst<Design>(schema, value);
  if (!checked.value) return checked;
  const question = checkQuestion(checked.value.question, catalogue);
  if (!question.value) return { value: undefined, faults: question.faults };
  return { value: { ...checked.value, question: question.value }, faults: [] };
}
