import Joi from 'joi';
import { isDay } from '../../platform/time';

const MOST = 60;

/** A short text of a body that passes a test, or the complaint. */
export const validText = (test: (value: string) => boolean, complaint: string) =>
  Joi.string()
    .max(MOST)
    .custom((value: string, helpers) => (test(value) ? value : helpers.error('any.invalid')))
    .messages({ 'any.invalid': complaint });

/** A day of a body, `YYYY-MM-DD`. */
export const validDay = validText(isDay, 'This is no day (YYYY-MM-DD)');
