import { addMonths, daysBetween, lineSum, linesValue, toMinor, type Day } from '@zawn/core';
import { type StagePeriodRow } from '../platform/database/rows';
import { type Book, type Happening, type Row } from './book';
import { POUNDS } from './deal-life';
import { type Random } from './random';

/** What Brackwater sells: code, name, family, price in pounds. */
const products: [code: string, name: string, family: string, pounds: number][] = [
  ['MA-06', 'Mast, 6 m galvanised', 'station', 1_480],
  ['MA-10', 'Mast, 10 m with boom', 'station', 2_950],
  ['HU-2', 'Gauge hut, insulated', 'station', 3_400],
  ['WL-RAD', 'Radar level sensor', 'sensor', 1_260],
  ['WL-PRS', 'Pressure level sensor', 'sensor', 540],
  ['WV-30', 'Wave buoy, 30 cm', 'sensor', 4_850],
  ['WX-5', 'Weather sensor, five quantities', 'sensor', 890],
  ['LG-8', 'Logger, eight channels', 'logger', 980],
  ['TM-4G', 'Telemetry unit, mobile network', 'logger', 640],
  ['SV-INST', 'Installation, per day', 'service', 780],
  ['SV-CAL', 'Calibration on site', 'service', 420],
  ['DS-YR', 'Data service, per station and year', 'data', 690],
];

/** What deals of each pipeline are about, in the order of the pipelines. */
const FAMILIES = [
  ['station', 'sensor', 'logger', 'service'],
  ['service', 'data'],
];
/** Of how many deals the lines are known, and of those, of how many they set the value. */
const KNOWN = 0.6;
const COUNTING = 0.75;

interface Line {
  product: number | null;
  name: string;
  quantity: number;
  unitPrice: number;
}

/** Lines for a deal that come to its value: some products, and what is left for the work on site. */
function linesFor(deal: Row, sold: readonly Row[], random: Random): Line[] {
  const currency = String(deal.currency) as keyof typeof POUNDS;
  const value = Number(deal.value);
  const lines: Line[] = [];
  let left = value;
  const wanted = random.int(2, 4);
  for (let tries = 0; tries < 8 && lines.length < wanted; tries += 1) {
    const product = random.pick(sold);
    if (lines.some((line) => line.product === product.id)) continue;
    const unitPrice = toMinor(
      Math.round(Number(product.unitPrice) / 100 / POUNDS[currency] / 10) * 10,
      currency,
    );
    // Each takes about its share of what is to be sold, so that the work on site is the smaller part.
    const most = Math.floor((left * 0.95) / unitPrice);
    const share = Math.round(((value * 0.85) / wanted / unitPrice) * random.spread(0.3));
    const quantity = Math.min(most, Math.max(1, share));
    if (quantity < 1) continue;
    lines.push({ product: Number(product.id), name: String(product.name), quantity, unitPrice });
    left -= quantity * unitPrice;
  }
  if (lines.length > 0 && left > 0)
    lines.push({ product: null, name: 'Work on site and travel', quantity: 1, unitPrice: left });
  return lines;
}

/** The products, and what many of the deals come to line by line. */
export function listProducts(book: Book, random: Random, founded: Day): void {
  const when = { at: `${founded}T10:00:00.000Z`, person: null };
  for (const [code, name, family, pounds] of products)
    book.create('product', when, {
      code,
      name,
      family,
      unitPrice: pounds * 100,
      currency: 'GBP',
      retired: null,
    });
  const unitOf = new Map(
    book
      .rows('change')
      .filter(({ object, kind }) => object === 'deal' && kind === 'created')
      .map(({ record, unit }) => [Number(record), Number(unit)]),
  );
  for (const deal of book.rows('deal')) {
    if (!random.chance(KNOWN)) continue;
    const families = FAMILIES[Number(deal.pipeline) - 1];
    const sold = book.rows('product').filter(({ family }) => families.includes(String(family)));
    const lines = linesFor(deal, sold, random);
    if (lines.length === 0) continue;
    const doesCount = random.chance(COUNTING);
    // Where they do not count, what was agreed is less than the list.
    if (!doesCount) lines.pop();
    const total = linesValue(lines);
    if (total === null || total === undefined) continue;
    const happened: Happening = { at: String(deal.createdAt), person: Number(deal.owner) };
    const unit = unitOf.get(Number(deal.id)) ?? 0;
    for (const [position, line] of lines.entries())
      book.createIn(unit, 'dealLine', happened, {
        deal: Number(deal.id),
        position,
        ...line,
        sum: lineSum(line) ?? null,
      });
    Object.assign(deal, { linesValue: total, valueFrom: doesCount ? 'lines' : 'typed' });
    if (doesCount) deal.typedValue = null;
  }
}

/** Months between a sale and a deal that can be its renewal. */
const [SOONEST, LATEST] = [8, 16];

/** Renewals that follow from an earlier sale to the same account name it; each sale is renewed once. */
export function nameRenewals(book: Book): void {
  const renewed = new Set<number>();
  const won = book.rows('deal').filter(({ outcome }) => outcome === 'won');
  for (const deal of book.rows('deal')) {
    if (deal.pipeline !== 2) continue;
    const created = String(deal.createdAt).slice(0, 10);
    const before = won.find(
      ({ id, account, closedOn }) =>
        account === deal.account &&
        id !== deal.id &&
        !renewed.has(Number(id)) &&
        String(closedOn) < addMonths(created, -SOONEST) &&
        String(closedOn) > addMonths(created, -LATEST),
    );
    if (!before) continue;
    renewed.add(Number(before.id));
    deal.renewalOf = Number(before.id);
  }
}

/** Of how many open deals that stand long enough it is told that they had been lost, and how many at most. */
const [CAME_BACK, MOST] = [0.25, 6];
const DAY = 86_400_000;

/** Some deals that are open had been lost and were opened again in the stage they left from. */
export function reopenSome(book: Book, random: Random, today: Day): void {
  let count = 0;
  for (const deal of book.rows('deal')) {
    const since = String(deal.stageSince);
    const isOld = daysBetween(since.slice(0, 10), today) > 75 && String(deal.updatedAt) <= since;
    if (deal.outcome !== 'open' || !isOld || count >= MOST || !random.chance(CAME_BACK)) continue;
    count += 1;
    const person = Number(deal.owner);
    const after = (days: number) => new Date(Date.parse(since) + days * DAY).toISOString();
    const [lostAt, reopenedAt] = [after(18), after(18 + random.int(20, 45))];
    const period = book.rows('stagePeriod').find((each) => each.deal === deal.id && each.leftAt === null);
    if (!period) continue;
    const lost = { outcome: 'lost', closedOn: lostAt.slice(0, 10), lossReason: 'timing' };
    const lostIn = book.change('deal', Number(deal.id), { at: lostAt, person }, lost);
    Object.assign(period, { leftAt: lostAt, leftUnit: lostIn });
    const again = { outcome: 'open', closedOn: null, stageSince: reopenedAt, timesReopened: 1 };
    const unit = book.change('deal', Number(deal.id), { at: reopenedAt, person }, again);
    const { id: _ended, ...same } = period as unknown as StagePeriodRow;
    book.period({ ...same, enteredAt: reopenedAt, leftAt: null, unit, leftUnit: null });
  }
}
