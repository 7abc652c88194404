import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { isCurrency, isDay, type Rate, type RatesRead, type EntriesWritten, type Written } from '@zawn/core';
import { validText } from '@zawn/core/validation';
import { readRates } from '@zawn/core/imports';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Organisation } from '../../kernel/organisation/organisation';
import { ByHand } from '../../kernel/records/by-hand';
import { type WriteContext } from '../../kernel/records/door';
import { May } from '../../platform/sessions/may';
import { ForPrograms } from '../../platform/sessions/scopes';
import { Rates } from './rates';

/** Rates that are written at once at most: twenty years of a day each would be read in parts. */
const MOST = 5000;
const LONGEST = 2_000_000;

const entries = Joi.object<{ rates: Rate[] }>({
  rates: Joi.array()
    .items(
      Joi.object({
        currency: validText(isCurrency, 'This is not a currency code such as EUR')
          .required()
          .label('Currency'),
        validFrom: validText(isDay, 'From is not a date (YYYY-MM-DD)').required().label('From'),
        rate: Joi.number().greater(0).max(1_000_000_000).required().label('Rate'),
      }),
    )
    .min(1)
    .max(MOST)
    .required(),
});
const reading = Joi.object<{ text: string }>({ text: Joi.string().max(LONGEST).allow('').required() });

@ForPrograms()
@May('setUpMoney', 'Your role does not let you change rates. Ask whoever sets up Zawn in your organisation.')
@Controller('api/v1/rates')
export class RatesController {
  constructor(
    private readonly rates: Rates,
    private readonly organisation: Organisation,
  ) {}

  /** What rates stand in a text: pasted lines, a file of them, or the reference rates of the European Central Bank. */
  @Post('read')
  @HttpCode(200)
  async readText(@CheckedBody(reading) { text }: CheckedAs<typeof reading>): Promise<RatesRead> {
    return readRates(text, (await this.organisation.settings()).currency);
  }

  /** Writes rates, each one unit of a currency in the reporting currency, as one undoable change. */
  @Post('entries')
  @HttpCode(200)
  enter(
    @ByHand() writing: WriteContext,
    @CheckedBody(entries) body: CheckedAs<typeof entries>,
  ): Promise<Written<EntriesWritten>> {
    return this.rates.write(writing, body.rates);
  }
}
