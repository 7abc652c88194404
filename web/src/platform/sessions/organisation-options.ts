import { countries } from '@zawn/core';
import { monthName, weekDayName } from '../frame/format';

const same = (values: readonly string[]) => values.map((value) => ({ value, label: value }));

/** What the settings of an organisation are chosen from. */
export const organisationOptions = () => ({
  currencies: same(Intl.supportedValuesOf('currency')),
  timeZones: same([...Intl.supportedValuesOf('timeZone'), 'UTC']),
  countries: countries().map(({ code, name }) => ({ value: code, label: name })),
  months: Array.from({ length: 12 }, (_, index) => ({
    value: index + 1,
    label: monthName(`2026-${String(index + 1).padStart(2, '0')}-01`),
  })),
  weekDays: [1, 2, 3, 4, 5, 6, 0].map((value) => ({ value, label: weekDayName(value) })),
});
