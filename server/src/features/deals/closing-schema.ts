import Joi from 'joi';
import { isDay, type Day, type DealClosing } from '@zawn/core';
import { validText } from '@zawn/core/validation';

const closedOn = validText(isDay, 'Closed on is not a date (YYYY-MM-DD)').label('Closed on');

/** What can be said anew about a deal that has ended. */
export interface Correction {
  closedOn: Day;
  wonReasons: string[] | null;
  wonBecause: string | null;
  lossReason: string;
  lossComment: string | null;
  lostTo: string | null;
}

const won = {
  closedOn,
  wonReasons: Joi.array().items(Joi.string().max(60)).max(20).unique().allow(null).label('Won because'),
  wonBecause: Joi.string().max(200).allow('', null).label('Comment'),
};

const lost = {
  closedOn,
  lossReason: Joi.string()
    .max(60)
    .required()
    .label('Reason')
    .messages({ 'any.required': 'Reason is missing' }),
  lossComment: Joi.string().max(2000).allow('', null).label('Comment'),
  lostTo: Joi.string().max(60).allow('', null).label('Lost to'),
  tryAgainOn: Joi.string().max(10).allow('', null).label('Try again on'),
};

/** What is said when a deal is won. */
export const winning = Joi.object<{
  closedOn?: Day;
  value?: number;
  wonReasons?: string[] | null;
  wonBecause?: string | null;
}>({
  ...won,
  value: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).label('Final value'),
});

/** What is said when a deal is lost. */
export const losing = Joi.object<{
  closedOn?: Day;
  lossReason: string;
  lossComment?: string | null;
  lostTo?: string | null;
  tryAgainOn?: string | null;
}>(lost);

/** What is said anew about the end of a deal; what is left out stays. */
export const correcting = Joi.object<Partial<Correction>>({
  ...won,
  closedOn,
  lossReason: lost.lossReason.optional(),
  lossComment: lost.lossComment,
  lostTo: lost.lostTo,
})
  .min(1)
  .messages({ 'object.min': 'Say what is to be changed' });

/** How several deals ended alike; each keeps its value. */
export const closingMany = Joi.object<DealClosing>({
  outcome: Joi.string().valid('won', 'lost').required().label('How they ended'),
}).when(Joi.object({ outcome: 'lost' }).unknown(), { then: Joi.object(lost), otherwise: Joi.object(won) });
