import fc from 'fast-check';
import { builtIn, type AnyRecord, type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import { select, summarise, type Measure } from '../../kernel/questions';
import { askedInLondon as context } from '../../kernel/questions/testing';
import { dayIn, isWorkingDay, weekdayKeys, type WorkingCalendar } from '../../platform/time';
import { answeredFrom } from '../reports/testing';
import { type ReportDesign, type ReportFigure } from '../reports/report';
import {
  answerFrozen,
  areComparable,
  behindFrozen,
  changeOf,
  catalogueThen,
  comparedRows,
  differingRecords,
  differs,
  fieldsFrozen,
  frozenParts,
  hiddenIn,
  nextOf,
  oneSeries,
  rhythmFault,
  rhythmInWords,
  timesBetween,
  type Frozen,
  type FrozenRow,
  type Rhythm,
} from '.';

const head = { version: 1, createdBy: 1, createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '' };
const people = ['Ada', 'Bo', 'Cy'].map((name, index) => ({ ...head, id: index + 1, name }));
const around = {
  find: (object: ObjectKey, id: number) =>
    object === 'person' ? people.find((each) => each.id === id) : undefined,
  linking: () => [],
  rates: [],
};

const anyDeal = fc.record({
  owner: fc.constantFrom(1, 2, 3),
  outcome: fc.constantFrom('open', 'won', 'lost'),
  closedOn: fc.constantFrom(null, '2025-11-03', '2026-10-12', '2026-11-02'),
  value: fc.option(fc.integer({ min: 0, max: 900_000 })),
  currency: fc.constant('GBP'),
  tags: fc.subarray(['a', 'b', 'c']),
  source: fc.constantFrom(null, 'web', 'fair'),
});
const dealsOf = (all: readonly object[]): AnyRecord[] =>
  all.map((values, index) => ({ ...head, id: index + 1, ...values }));

const won = { field: 'outcome', is: 'anyOf', value: ['won'] } as const;
const figures: ReportFigure[] = [
  { key: 'count', measure: { as: 'count' } },
  { key: 'won', measure: { as: 'count', where: won } },
  { key: 'value', measure: { as: 'sum', of: 'value' } },
  { key: 'wonValue', measure: { as: 'sum', of: 'value', where: won } },
  { key: 'mean', measure: { as: 'average', of: 'value' } },
  { key: 'median', measure: { as: 'median', of: 'value' } },
  { key: 'least', measure: { as: 'least', of: 'value' } },
  { key: 'most', measure: { as: 'most', of: 'value' } },
  { key: 'sources', measure: { as: 'distinct', of: 'source' } },
  { key: 'rate', formula: 'won / count', format: 'percent' },
  { key: 'part', shareOf: 'value', in: 'all' },
  { key: 'before', past: 'won', of: 'yearBefore' },
];

const anyDesign: fc.Arbitrary<ReportDesign> = fc
  .record({
    groups: fc.constantFrom(
      [],
      [{ field: 'owner' }],
      [{ field: 'owner' }, { field: 'outcome' }],
      [{ field: 'tags' }],
      [{ field: 'closedOn', by: 'month' as const }],
    ),
    split: fc.constantFrom(undefined, { field: 'source' }),
    top: fc.constantFrom(undefined, 1),
    isOfPeriod: fc.boolean(),
  })
  .map(({ groups, split, top, isOfPeriod }) => ({
    version: 1,
    question: { version: 1, object: 'deal', groups },
    figures: isOfPeriod ? figures : figures.filter((each) => !('past' in each)),
    draw: 'none',
    ...(split && groups.length > 0 ? { split } : {}),
    ...(top !== undefined && groups.length > 0 ? { top, order: { figure: 'value', descending: true } } : {}),
    ...(isOfPeriod ? { period: { field: 'closedOn', in: { unit: 'quarter', offset: 0 } as const } } : {}),
  }));

/** Freezes a report of records in memory: each is asked for by itself. */
function frozenFrom(
  design: ReportDesign,
  deals: readonly AnyRecord[],
): { frozen: Frozen; rows: FrozenRow[][] } {
  const parts = frozenParts(design, context);
  const { catalogue, ...moment } = context;
  const rows = parts.map(({ question }) =>
    select(question, deals, context, around).flatMap((record) =>
      summarise(question, [record], context, around).map(({ keys, figures: found }): FrozenRow => ({
        id: record.id,
        keys,
        figures: found,
      })),
    ),
  );
  const orders = { person: Object.fromEntries(people.map(({ id, name }) => [id, name])) };
  const frozen: Frozen = {
    version: 1,
    design,
    moment,
    fields: fieldsFrozen(parts, catalogue),
    parts,
    names: {},
    orders,
  };
  return { frozen, rows };
}

const rounded = (answer: Awaited<ReturnType<typeof answeredFrom>>) =>
  answer.rows.map(({ keys, count, figures: found, split, rest }) => ({
    keys,
    count,
    rest,
    figures: found.map(round),
    split: split?.map((each) => each.figures.map(round)),
  }));
const round = (value: number | null) => (value === null ? null : Math.round(value * 1e6) / 1e6);

describe('a frozen report', () => {
  it('comes to what the report came to, and of some of its records to what it comes to of those', async () => {
    await fc.assert(
      fc.asyncProperty(anyDesign, fc.array(anyDeal, { maxLength: 14 }), async (design, made) => {
        const deals = dealsOf(made);
        const { frozen, rows } = frozenFrom(design, deals);
        const live = await answeredFrom(design, { deal: deals }, context, around);
        expect(rounded(await answerFrozen(frozen, rows, builtIn))).toEqual(rounded(live));
        const seen = deals.filter(({ owner }) => owner !== 2);
        const theirs = rows.map((some) => some.filter(({ id }) => seen.some((each) => each.id === id)));
        const ofThose = await answeredFrom(design, { deal: seen }, context, around);
        expect(rounded(await answerFrozen(frozen, theirs, builtIn))).toEqual(rounded(ofThose));
      }),
      { numRuns: 150 },
    );
  });

  it('knows the records behind each place', async () => {
    await fc.assert(
      fc.asyncProperty(anyDesign, fc.array(anyDeal, { maxLength: 14 }), async (design, made) => {
        const { frozen, rows } = frozenFrom(design, dealsOf(made));
        const answer = await answerFrozen(frozen, rows, builtIn);
        for (const { keys, count, rest, figures: found } of answer.rows) {
          if (rest !== undefined) continue;
          expect(behindFrozen(frozen, rows, { keys }, builtIn).ids.length).toBe(count);
          const figure = design.figures[1];
          const behind = behindFrozen(frozen, rows, { keys, figure }, builtIn).ids;
          expect(behind.length).toBe(found[1]);
        }
      }),
      { numRuns: 80 },
    );
  });

  it('adds no amounts of several currencies up that stand as they are', async () => {
    const measure: Measure = { as: 'sum', of: 'value', money: 'own' };
    const design: ReportDesign = {
      version: 1,
      question: { version: 1, object: 'deal', groups: [{ field: 'owner' }] },
      figures: [{ key: 'own', measure }],
      draw: 'none',
    };
    const deals = dealsOf([
      { owner: 1, value: 100, currency: 'GBP' },
      { owner: 1, value: 200, currency: 'GBP' },
      { owner: 2, value: 300, currency: 'SEK' },
    ]);
    const { frozen, rows } = frozenFrom(design, deals);
    const answer = await answerFrozen(frozen, rows, builtIn);
    expect(answer.rows.map((row) => row.figures[0])).toEqual([null, 300, 300]);
  });

  it('reads with the fields as they were, and tells which of them somebody does not see', () => {
    const design: ReportDesign = {
      version: 1,
      question: { version: 1, object: 'deal', groups: [{ field: 'source' }] },
      figures: [{ key: 'value', measure: { as: 'sum', of: 'value' } }],
      draw: 'none',
    };
    const { frozen } = frozenFrom(design, []);
    const renamed = { ...frozen.fields.deal?.source, label: 'Where from' } as never;
    const then = catalogueThen({ fields: { deal: { source: renamed } } }, builtIn);
    expect(then.own.deal.source.label).toBe('Where from');
    expect(then.own.deal.value).toBe(builtIn.own.deal.value);
    expect(hiddenIn(frozen, builtIn, () => new Set(['value']))).toEqual(['Value']);
    expect(hiddenIn(frozen, builtIn, () => new Set(['phone']))).toEqual([]);
  });
});

describe('two moments of a report', () => {
  const answer = (...rows: [keys: FieldValue[], count: number, figures: (number | null)[]][]) => ({
    splits: [],
    rows: rows.map(([keys, count, found]) => ({ keys, count, figures: found })),
    names: {},
    leftOut: [],
    unrated: [],
    isCut: false,
    dropped: 0,
    compared: {},
  });

  it('stand row beside row, those that are gone where they stood', () => {
    const was = answer([[], 3, [3]], [['a'], 1, [1]], [['b'], 1, [1]], [['c'], 1, [1]]);
    const is = answer([[], 4, [4]], [['a'], 1, [1]], [['c'], 2, [2]], [['d'], 1, [1]]);
    const rows = comparedRows(was, is);
    expect(rows.map(({ keys }) => keys[0])).toEqual([undefined, 'a', 'b', 'c', 'd']);
    expect(rows.map((row) => differs(row, [figures[0]]))).toEqual([true, false, true, true, true]);
    expect([rows[2].is, rows[4].was]).toEqual([undefined, undefined]);
  });

  it('can stand side by side in one of their series, also in one that was not there before', () => {
    const split = (...counts: number[]) => counts.map((count) => ({ count, figures: [count] }));
    const all = (splits: string[], ...counts: number[]) => ({
      ...answer(),
      splits,
      rows: [{ keys: [], count: 9, figures: [9], split: split(...counts) }],
    });
    const [was, is] = [all(['won', 'lost'], 2, 1), all(['open', 'won'], 4, 2)];
    const inSeries = (key: string) => {
      const [row] = comparedRows(oneSeries(was, key), oneSeries(is, key));
      return [row.was?.figures[0], row.is?.figures[0], changeOf(row, 0), differs(row, [figures[0]])];
    };
    expect(inSeries('won')).toEqual([2, 2, 0, false]);
    expect(inSeries('lost')).toEqual([1, null, -1, true]);
    expect(inSeries('open')).toEqual([null, 4, 4, true]);
    expect(inSeries('gone')).toEqual([null, null, null, false]);
  });

  it('do not differ in a row only because another one does', () => {
    const share: ReportFigure = { key: 'part', shareOf: 'value', in: 'all' };
    const row = (part: number) => ({ keys: ['a'], count: 1, figures: [1, part] });
    const both = { keys: ['a'], isRest: false, was: row(0.5), is: row(0.25) };
    expect(differs(both, [figures[0], share])).toBe(false);
    expect(differs(both, [figures[0], figures[1]])).toBe(true);
  });

  it('differ by the records that came, went, and count otherwise', () => {
    const row = (id: number, value: number): FrozenRow => ({ id, keys: [], figures: [1, value] });
    const [was, is] = [
      [row(1, 10), row(2, 20), row(3, 30)],
      [row(1, 10), row(3, 35), row(4, 40)],
    ];
    expect(differingRecords(was, is, 1)).toEqual({ came: [4], went: [2], changed: [3] });
    expect(differingRecords(was, is, undefined)).toEqual({ came: [4], went: [2], changed: [] });
  });

  it('can be compared when they have the same groups and figures, whatever these are called', () => {
    const design = (label: string, field: string): ReportDesign => ({
      version: 1,
      question: { version: 1, object: 'deal', groups: [{ field }] },
      figures: [{ key: 'a', label, measure: { as: 'count' } }],
      draw: 'none',
    });
    expect(areComparable(design('One', 'owner'), design('Other', 'owner'))).toBe(true);
    expect(areComparable(design('One', 'owner'), design('One', 'stage'))).toBe(false);
  });
});

describe('a rhythm', () => {
  const calendar: WorkingCalendar = {
    workingDays: weekdayKeys.slice(0, 5),
    opens: '09:00',
    closes: '17:00',
    holidays: new Map([
      ['2026-11-30', 'Harbour day'],
      ['2026-12-25', 'Christmas Day'],
    ]),
  };
  const zone = 'Europe/London';
  const next = (rhythm: Partial<Rhythm>, after: string) =>
    nextOf({ every: 'month', at: '08:00', ...rhythm }, after, zone, calendar);

  it.each<[string, Partial<Rhythm>, string, string]>([
    ['Monday', { every: 'week', weekday: 'mon' }, '2026-11-19T09:30:00Z', '2026-11-23T08:00:00.000Z'],
    [
      'the same day later',
      { every: 'week', weekday: 'thu' },
      '2026-11-19T07:30:00Z',
      '2026-11-19T08:00:00.000Z',
    ],
    [
      'a week later once it is past',
      { every: 'week', weekday: 'thu' },
      '2026-11-19T08:00:00.000Z',
      '2026-11-26T08:00:00.000Z',
    ],
    ['the last working day', { working: 'last' }, '2026-11-19T09:30:00Z', '2026-11-27T08:00:00.000Z'],
    ['the first working day', { working: 'first' }, '2026-11-19T09:30:00Z', '2026-12-01T08:00:00.000Z'],
    ['the 31st where there is none', { day: 31 }, '2026-11-19T09:30:00Z', '2026-11-30T08:00:00.000Z'],
    ['the 31st where there is one', { day: 31 }, '2026-12-01T09:30:00Z', '2026-12-31T08:00:00.000Z'],
    ['the 31st in February', { day: 31 }, '2027-02-01T09:30:00Z', '2027-02-28T08:00:00.000Z'],
    ['before a holiday', { day: 31, offDay: 'before' }, '2026-11-19T09:30:00Z', '2026-11-27T08:00:00.000Z'],
    ['after a holiday', { day: 31, offDay: 'after' }, '2026-11-19T09:30:00Z', '2026-12-01T08:00:00.000Z'],
    ['a holiday all the same', { day: 25 }, '2026-12-01T09:30:00Z', '2026-12-25T08:00:00.000Z'],
    ['by the clocks of summer', { day: 1 }, '2026-06-02T09:30:00Z', '2026-07-01T07:00:00.000Z'],
    [
      'before the 1st, in the month before',
      { day: 1, offDay: 'before' },
      '2027-07-15T09:30:00Z',
      '2027-07-30T07:00:00.000Z',
    ],
  ])('comes on %s', (_, rhythm, after, expected) => {
    expect(next(rhythm, after)).toBe(expected);
  });

  it('always goes on, and on a working day where that is wanted', () => {
    fc.assert(
      fc.property(
        fc.record({
          day: fc.integer({ min: 1, max: 31 }),
          offDay: fc.constantFrom('before' as const, 'after' as const),
          after: fc.date({ min: new Date('2026-01-01'), max: new Date('2028-01-01'), noInvalidDate: true }),
        }),
        ({ day, offDay, after }) => {
          const from = after.toISOString();
          const found = next({ day, offDay }, from);
          expect(found > from).toBe(true);
          expect(Date.parse(found) - Date.parse(from)).toBeLessThan(40 * 86_400_000);
          expect(isWorkingDay(calendar, dayIn(zone, found))).toBe(true);
        },
      ),
    );
  });

  it('is counted while nobody was there', () => {
    const weekly: Rhythm = { every: 'week', weekday: 'mon', at: '08:00' };
    expect(timesBetween(weekly, '2026-11-02T08:00:00.000Z', '2026-11-19T09:30:00Z', zone, calendar)).toBe(2);
  });

  it.each<[Rhythm, string]>([
    [{ every: 'week', weekday: 'mon', at: '08:00' }, 'Every Monday at 08:00'],
    [{ every: 'month', working: 'last', at: '18:00' }, 'On the last working day of each month at 18:00'],
    [{ every: 'month', day: 22, at: '08:00' }, 'On the 22nd of each month at 08:00'],
    [
      { every: 'month', day: 31, at: '08:00', offDay: 'before' },
      'On the 31st of each month, in shorter months on their last day, at 08:00; where nobody works then, on the working day before',
    ],
  ])('is said in words', (rhythm, words) => {
    expect(rhythmInWords(rhythm)).toBe(words);
    expect(rhythmFault(rhythm)).toBeUndefined();
  });

  it('needs its day', () => {
    expect(rhythmFault({ every: 'week', at: '08:00' })?.[0]).toBe('weekday');
    expect(rhythmFault({ every: 'month', at: '08:00' })?.[0]).toBe('day');
  });
});
