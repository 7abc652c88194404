import Big from 'big.js';
import { SaxesParser } from 'saxes';
import { isCurrency, type Rate } from '../../platform/money';
import { isDay } from '../../platform/time';

/** A line of a file or of what was pasted that is no rate, and why. */
export interface RateFault {
  line: number;
  message: string;
}

/** Rates as they stand in a file: one unit of each currency in the reporting currency, the earliest first. */
export interface ReadRates {
  rates: Rate[];
  faults: RateFault[];
}

/** Digits that a computed rate keeps: more than any published one has. */
const DIGITS = 12;
/** The currency that the reference rates of the European Central Bank are given for. */
const EURO = 'EUR';

/**
 * Reads rates as they are pasted from a spreadsheet or come as a file: lines of a currency, a day and a rate in any
 * order, with or without headings, or the reference rates of the European Central Bank as XML.
 * @param reporting the currency that rates are to be in.
 */
export function readRates(text: string, reporting: string): ReadRates {
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  const read = trimmed.startsWith('<')
    ? readReferenceRates(trimmed, reporting)
    : readLines(trimmed, reporting);
  return { ...read, rates: read.rates.sort(byDay) };
}

const byDay = (a: Rate, b: Rate) =>
  a.validFrom < b.validFrom ? -1 : a.validFrom > b.validFrom ? 1 : a.currency < b.currency ? -1 : 1;

/**
 * The daily file: for each day, how much of each currency one euro is worth.
 * Source: the format of `eurofxref-daily.xml`, nested elements `Cube` with `time`, and with `currency` and `rate`.
 */
function readReferenceRates(xml: string, reporting: string): ReadRates {
  const days = new Map<string, Map<string, Big>>();
  const faults: RateFault[] = [];
  let day = '';
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    if (name.split(':').pop() !== 'Cube') return;
    const { time, currency, rate } = attributes;
    if (time !== undefined) {
      day = isDay(time) ? time : '';
      if (day === '') faults.push({ line: parser.line, message: `“${time}” is not a date` });
    }
    if (currency === undefined || rate === undefined || day === '') return;
    if (!isCurrency(currency) || !isPositive(rate))
      faults.push({ line: parser.line, message: `“${currency} ${rate}” is not a rate` });
    else days.set(day, (days.get(day) ?? new Map<string, Big>()).set(currency, new Big(rate)));
  });
  try {
    parser.write(xml).close();
  } catch (error) {
    faults.push({ line: parser.line, message: `The file cannot be read: ${(error as Error).message}` });
  }
  if (days.size === 0 && faults.length === 0)
    faults.push({ line: 1, message: 'There are no reference rates in this file' });
  const rates: Rate[] = [];
  for (const [validFrom, perEuro] of days) {
    const ofReporting = reporting === EURO ? new Big(1) : perEuro.get(reporting);
    if (!ofReporting) {
      faults.push({
        line: 1,
        message: `There is no rate of ${reporting} on ${validFrom}, so nothing can be told of the others`,
      });
      continue;
    }
    perEuro.set(EURO, new Big(1));
    for (const [currency, units] of perEuro)
      if (currency !== reporting)
        rates.push({ currency, validFrom, rate: Number(ofReporting.div(units).toPrecision(DIGITS)) });
  }
  return { rates, faults };
}

const isPositive = (text: string) => /^\d+(\.\d+)?$/.test(text) && Number(text) > 0;

function readLines(text: string, reporting: string): ReadRates {
  const rates: Rate[] = [];
  const faults: RateFault[] = [];
  const seen = new Map<string, number>();
  const lines = text.split(/\r?\n/);
  const sign = ['\t', ';'].find((each) => text.includes(each));
  for (const [index, content] of lines.entries()) {
    const line = index + 1;
    if (content.trim() === '') continue;
    // Between commas a decimal comma would be another cell.
    const cells = (sign ? content.split(sign) : content.split(',')).map((cell) =>
      cell.trim().replace(/^"|"$/g, ''),
    );
    const found = rateIn(cells, reporting);
    if (typeof found === 'string') {
      // Headings name what stands below them.
      if (!(rates.length === 0 && faults.length === 0 && !/\d/.test(content)))
        faults.push({ line, message: found });
      continue;
    }
    const name = `${found.currency} ${found.validFrom}`;
    const earlier = seen.get(name);
    seen.set(name, line);
    if (earlier !== undefined) faults.push({ line, message: `${name} stands in line ${earlier} already` });
    else rates.push(found);
  }
  if (rates.length === 0 && faults.length === 0) faults.push({ line: 1, message: 'There is no rate in it' });
  return { rates, faults };
}

/** The rate in a line, or what is wrong with it. */
function rateIn(cells: readonly string[], reporting: string): Rate | string {
  const currency = cells
    .map((cell) => cell.toUpperCase())
    .find((cell) => /^[A-Z]{3}$/.test(cell) && isCurrency(cell));
  const days = cells.map(dayIn).filter((day) => day !== undefined);
  const numbers = cells.map(numberIn).filter((number) => number !== undefined);
  if (currency === undefined) return 'There is no currency code such as EUR in it';
  if (currency === reporting) return `${currency} is what everything is reported in, and needs no rate`;
  if (days.length !== 1) return 'There must be one date in it, such as 2026-11-19 or 19.11.2026';
  if (numbers.length !== 1) return 'There must be one rate in it, such as 0.8621';
  if (!(numbers[0] > 0)) return 'The rate must be more than nothing';
  return { currency, validFrom: days[0], rate: numbers[0] };
}

function dayIn(cell: string): string | undefined {
  const [, day, month, year] = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(cell) ?? [];
  const iso = year ? `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}` : cell;
  return isDay(iso) ? iso : undefined;
}

function numberIn(cell: string): number | undefined {
  return /^-?\d+([.,]\d+)?$/.test(cell) ? Number(cell.replace(',', '.')) : undefined;
}
