import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import {
  keptRate,
  minorDigits,
  type Rate,
  type EntriesWritten,
  type RecordOf,
  type Written,
} from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Door, type WriteContext } from '../../kernel/records/door';

/** Rates of whole units, as people write them; those on file are of the smallest ones. */
@Injectable()
export class Rates {
  constructor(
    private readonly organisation: Organisation,
    private readonly door: Door,
  ) {}

  /**
   * Writes rates as one unit: those of a day that has one already take its place.
   * @param rates one unit of each currency in the reporting currency.
   * @throws Problem `invalid-input` when two are of the same currency and day.
   */
  async write(writing: WriteContext, rates: readonly Rate[]): Promise<Written<EntriesWritten>> {
    const names = rates.map(nameOf);
    const twice = names.find((name, index) => names.indexOf(name) !== index);
    if (twice !== undefined)
      throw invalidInput([{ field: 'rates', message: `There are two rates of ${twice}` }]);
    const { currency: reporting } = await this.organisation.settings();
    return this.door.write(writing, async (unit) => {
      const written: EntriesWritten = { created: 0, changed: 0, same: 0 };
      const onFile = await unit.manager.findBy<RecordOf<'rate'> & { deletedAt: string | null }>('rate', {
        deletedAt: IsNull(),
      });
      const byName = new Map(onFile.map((rate) => [nameOf(rate), rate]));
      for (const { currency, validFrom, rate: whole } of rates) {
        const digits = minorDigits(reporting) - minorDigits(currency);
        const rate = keptRate(Number((whole * 10 ** digits).toPrecision(PRECISION)));
        const known = byName.get(nameOf({ currency, validFrom }));
        if (known?.rate === rate) written.same += 1;
        else if (known) {
          await unit.change('rate', known.id, { rate });
          written.changed += 1;
        } else {
          await unit.create('rate', { currency, validFrom, rate });
          written.created += 1;
        }
      }
      unit.label = `Entered ${rates.length === 1 ? 'a rate' : `${rates.length} rates`}`;
      return written;
    });
  }
}

/** Digits that are kept where a rate is turned into one of smaller units. */
const PRECISION = 14;

const nameOf = ({ currency, validFrom }: Pick<Rate, 'currency' | 'validFrom'>) => `${currency} ${validFrom}`;
