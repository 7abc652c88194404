import { IsNull } from 'typeorm';
import {
  dealNumbersOf,
  keptRate,
  patternFault,
  rebase,
  type AnyRecord,
  type Rate,
  type RecordOf,
} from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { checkHours } from '../../kernel/organisation/check-hours';
import { type OrganisationRow } from '../../platform/database/rows';

type KeptRate = AnyRecord & Rate;

const ratesOnFile = (unit: Unit): Promise<KeptRate[]> =>
  unit.manager.findBy<KeptRate>('rate', { deletedAt: IsNull() });

/** Rates follow the reporting currency, so that every amount is worth what it was. */
async function reportIn(unit: Unit, from: string, to: string): Promise<void> {
  const old = await ratesOnFile(unit);
  const rates = rebase(old, from, to);
  if (!rates)
    throw invalidInput([
      { field: 'currency', message: `Reporting currency: there is no rate of ${to} yet. Enter one first` },
    ]);
  for (const rate of old) await unit.removeFound('rate', rate);
  for (const rate of rates) await unit.create('rate', { ...rate });
}

/** What writing the settings means: there is one set of them, and rates follow the reporting currency. */
export const organisationHooks: RecordHooks = {
  object: 'organisation',
  beforeWrite(unit, next, before) {
    if (!before) throw new Problem('conflict', 'The organisation is there already. Change it instead.');
    if (unit.undoes !== undefined) return Promise.resolve();
    checkHours(next, before);
    if (next.workingDays === null)
      throw invalidInput([{ field: 'workingDays', message: 'Working days: choose one at least' }]);
    const fault = patternFault(dealNumbersOf({ ...before, ...next } as unknown as OrganisationRow));
    if (fault !== undefined)
      throw invalidInput([{ field: 'dealNumber', message: `Numbers of deals: ${fault}` }]);
    return Promise.resolve();
  },
  async afterWrite(unit, after, before) {
    // What is taken back brings its rates along.
    if (!before || after.currency === before.currency) return;
    if (await unit.manager.existsBy('import', { state: 'running' }))
      throw new Problem(
        'conflict',
        'An import is being written, with amounts in the reporting currency of now. Wait until it is done. Nothing was changed.',
      );
    if (unit.undoes !== undefined) return;
    await reportIn(unit, String(before.currency), String(after.currency));
  },
  beforeRemove() {
    throw new Problem('conflict', 'The settings of the organisation cannot be deleted.');
  },
};

/** What writing a rate means: a currency has one for each day, and the reporting currency none. */
export const rateHooks: RecordHooks = {
  object: 'rate',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const { currency, validFrom, rate } = { ...before, ...next } as Partial<AnyRecord> & Partial<Rate>;
    if (typeof next.rate === 'number') next.rate = keptRate(next.rate);
    if (!(Number(next.rate ?? rate) > 0))
      throw invalidInput([{ field: 'rate', message: 'Rate: it must be more than nothing' }]);
    const settings = await unit.manager.findOneByOrFail<RecordOf<'organisation'>>('organisation', { id: 1 });
    if (currency === settings.currency)
      throw invalidInput([
        {
          field: 'currency',
          message: `Currency: everything is reported in ${currency}, which needs no rate`,
        },
      ]);
    const other = (await ratesOnFile(unit)).find(
      (each) => each.currency === currency && each.validFrom === validFrom && each.id !== before?.id,
    );
    if (other)
      throw invalidInput([
        { field: 'validFrom', message: `From: there is a rate of ${currency} from ${validFrom} already` },
      ]);
  },
};

/** What writing a holiday means: a day is one for everybody once, and for each team. */
export const holidayHooks: RecordHooks = {
  object: 'holiday',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const { day, team } = { ...before, ...next } as Partial<RecordOf<'holiday'>>;
    const others = await unit.manager.findBy<RecordOf<'holiday'>>('holiday', {
      day,
      deletedAt: IsNull(),
    } as object);
    const same = others.find((each) => each.id !== before?.id && each.team === (team ?? null));
    if (same) throw invalidInput([{ field: 'day', message: `Day: ${same.name} is on this day already` }]);
  },
};

/** What writing how amounts stand means: each currency is written one way. */
export const currencyFormatHooks: RecordHooks = {
  object: 'currencyFormat',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined || typeof next.currency !== 'string') return;
    const same = await unit.manager.findOneBy<AnyRecord>('currencyFormat', {
      currency: next.currency,
      deletedAt: IsNull(),
    });
    if (same && same.id !== before?.id)
      throw invalidInput([
        {
          field: 'currency',
          message: `Currency: how ${next.currency} is written is set already. Change that`,
        },
      ]);
  },
};
