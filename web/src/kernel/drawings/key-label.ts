import {
  choiceLabel,
  countryName,
  fieldAt,
  periodLabel as periodName,
  isMoneyMeasure,
  type CalendarRules,
  type Catalogue,
  type FieldValue,
  type Grouping,
  type Measure,
  type Names,
  type ObjectKey,
  type Wording,
} from '@zawn/core';
import { date, dateFormat, money, number, percent } from '../../platform/frame/format';

const monthAndYear = dateFormat({ month: 'short', year: 'numeric' });
const dayAndMonth = dateFormat({ day: 'numeric', month: 'short' });

/** The first day of a period as the period is called: `Nov 2026`, `Q3 2026/27`. */
export const periodLabel = (day: string, by: Grouping['by'], calendar: CalendarRules): string =>
  periodName(day, by, calendar, { day: date, dayAndMonth, monthAndYear });

export interface LabelContext {
  catalogue: Catalogue;
  calendar: CalendarRules;
  wording: Wording;
  names: Names;
  /** The currency that amounts are told in, where it is not the organisation's of today. */
  currency?: string;
}

/** What the key of a group is called. */
export function keyLabel(
  object: ObjectKey,
  grouping: Grouping,
  key: FieldValue,
  { catalogue, calendar, wording, names }: LabelContext,
): string {
  const field = fieldAt(catalogue, object, grouping.field);
  if (key === null || !field) return 'empty';
  switch (field.type) {
    case 'date':
    case 'dateTime':
      return periodLabel(String(key), grouping.by, calendar);
    case 'choice':
    case 'choices':
      return choiceLabel(field, String(key));
    case 'country':
      return countryName(String(key));
    case 'yesNo':
      return key ? 'Yes' : 'No';
    case 'link': {
      const to = field.to as ObjectKey;
      return names[to]?.[Number(key)] ?? (to in names ? 'not yours to see' : wording.nameOf(to, Number(key)));
    }
    default:
      return String(key);
  }
}

const divisors = { thousands: 1e3, millions: 1e6 };
const signs = { thousands: 'k', millions: 'm' };

/** A figure as it is read: money in the reporting currency, shares in percent, rounded when that was asked for. */
export function figureText(
  figure: number | null,
  measure: Measure,
  object: ObjectKey,
  { catalogue }: Pick<LabelContext, 'catalogue'>,
  currency: string,
  rounding?: 'thousands' | 'millions',
): string {
  if (figure === null) return '–';
  if (measure.as === 'share') return percent(figure);
  const isMoney = isMoneyMeasure(measure, object, { catalogue });
  if (!rounding || measure.as === 'count' || measure.as === 'distinct') {
    const plain = Math.round(figure * 10) / 10;
    return isMoney ? money(Math.round(figure), currency) : number(plain);
  }
  const inUnits = figure / divisors[rounding];
  // Whole minor units again, so that the currency's own digits apply.
  if (isMoney) return `${money(Math.round(inUnits), currency)}${signs[rounding]}`;
  return `${number(Math.round(inUnits * 10) / 10)}${signs[rounding]}`;
}
