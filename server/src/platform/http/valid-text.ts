import Joi from 'joi';

const MOST = 60;

/** A short text of a body that passes a test, or the complaint. */
export const validText = (test: (value: string) => boolean, complaint: string) =>
  Joi.string()
    .max(MOST)
    .custom((value: string, helpers) => (test(value) ? value : helpers.error('any.invalid')))
    .messages({ 'any.invalid': complaint });
