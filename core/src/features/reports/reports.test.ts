import fc from 'fast-check';
import { builtIn, type AnyRecord, type ObjectKey } from '../../kernel/catalogue';
import { ask, select, type Question, type QuestionContext } from '../../kernel/questions';
import { checkReport } from './report-schema';
import {
  answerReport,
  daysCompared,
  furtherDown,
  isFormulaFault,
  readFormula,
  readyReports,
  recordsBehind,
  type ReportAnswer,
  type ReportDesign,
  type ReportFigure,
} from '.';
import { askedInLondon } from '../../kernel/questions/testing';
import { evaluate } from './formula';
import { answeredFrom, figuresFrom } from './testing';

const context = askedInLondon;
const head = { version: 1, createdBy: 1, createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '' };
const people = [1, 2, 3].map((id) => ({ ...head, id, name: ['Ada', 'Bo', 'Cy'][id - 1] })) as AnyRecord[];
const around = {
  find: (object: ObjectKey, id: number) =>
    object === 'person' ? people.find((each) => each.id === id) : undefined,
  linking: () => [],
  rates: [],
};
let last = 0;
const deal = (
  owner: number,
  outcome: string,
  closedOn: string | null,
  value: number | null,
  source = 'web',
) =>
  ({
    ...head,
    id: (last += 1),
    owner,
    outcome,
    closedOn,
    value,
    source,
    currency: 'GBP',
    tags: null,
  }) as unknown as AnyRecord;

/** Of two fiscal years: this one began in April 2026. */
const deals = [
  deal(1, 'won', '2026-04-10', 100_00),
  deal(1, 'won', '2026-06-01', 300_00, 'fair'),
  deal(1, 'lost', '2026-06-20', 50_00),
  deal(2, 'won', '2026-06-05', 200_00),
  deal(2, 'lost', '2026-04-01', 400_00, 'fair'),
  deal(2, 'open', null, 900_00),
  deal(3, 'lost', '2026-11-01', 10_00),
  deal(1, 'won', '2025-04-30', 50_00),
  deal(2, 'won', '2025-06-30', 400_00, 'fair'),
  deal(3, 'lost', '2025-05-01', 70_00),
];
const answered = (design: ReportDesign, records = deals): Promise<ReportAnswer> =>
  answeredFrom(design, { deal: records }, context, around);

const won = { field: 'outcome', is: 'anyOf', value: ['won'] } as const;
const lost = { field: 'outcome', is: 'anyOf', value: ['lost'] } as const;
const value = (key: string, where?: typeof won | typeof lost): ReportFigure => ({
  key,
  measure: { as: 'sum', of: 'value', ...(where ? { where } : {}) },
});
const count = (key: string, where?: typeof won | typeof lost): ReportFigure => ({
  key,
  measure: { as: 'count', ...(where ? { where } : {}) },
});
const report = (
  figures: ReportFigure[],
  question: Partial<Question> = {},
  more: Partial<ReportDesign> = {},
): ReportDesign => ({
  version: 1,
  question: { ...ask('deal'), groups: [], ...question },
  figures,
  draw: 'none',
  ...more,
});
const year = { field: 'closedOn', in: { unit: 'fiscalYear', offset: 0 } } as const;
const rowsOf = ({ rows }: ReportAnswer) => rows.map(({ keys, figures }) => [keys.join('/'), ...figures]);

describe('a report', () => {
  it('has each group in front of those within it, and all records first', async () => {
    const design = report([count('n'), value('v')], {
      where: { join: 'any', of: [won, lost] },
      groups: [{ field: 'owner' }, { field: 'outcome' }],
    });
    expect(rowsOf(await answered(design))).toEqual([
      ['', 9, 1580_00],
      ['1', 4, 500_00],
      ['1/won', 3, 450_00],
      ['1/lost', 1, 50_00],
      ['2', 3, 1000_00],
      ['2/won', 2, 600_00],
      ['2/lost', 1, 400_00],
      ['3', 2, 80_00],
      ['3/lost', 2, 80_00],
    ]);
  });

  it('puts figures with conditions of their own together, and divides by nothing without a figure', async () => {
    const figures: ReportFigure[] = [
      count('won', won),
      count('lost', lost),
      { key: 'rate', formula: 'won / (won + lost)' },
      { key: 'each', formula: 'won ÷ lost' },
    ];
    const design = report(figures, { groups: [{ field: 'owner' }] }, { period: year });
    expect(rowsOf(await answered(design))).toEqual([
      ['', 3, 3, 0.5, 1],
      ['1', 2, 1, 2 / 3, 2],
      ['2', 1, 1, 0.5, 1],
      ['3', 0, 1, 0, 0],
    ]);
    const onlyWon = report(figures, { where: won, groups: [] }, { period: year });
    expect(rowsOf(await answered(onlyWon))).toEqual([['', 3, 0, 1, null]]);
  });

  it('compares a period with the one before and with the same a year before, month by month', async () => {
    const figures: ReportFigure[] = [
      value('v', won),
      { key: 'ago', past: 'v', of: 'yearBefore' },
      { key: 'more', change: 'v', against: 'yearBefore', as: 'amount' },
      { key: 'part', change: 'v', against: 'yearBefore', as: 'percent' },
      { key: 'sofar', running: 'v' },
    ];
    const design = report(figures, { groups: [{ field: 'closedOn', by: 'month' }] }, { period: year });
    const { rows, compared } = await answered(design);
    expect(compared.yearBefore).toEqual({ from: '2025-04-01', to: '2026-04-01' });
    // Every month of the year is there, whether or not anything happened in it.
    expect(rows.map(({ keys }) => keys[0])).toEqual([
      undefined,
      ...['04', '05', '06', '07', '08', '09', '10', '11', '12'].map((month) => `2026-${month}-01`),
      ...['01', '02', '03'].map((month) => `2027-${month}-01`),
    ]);
    expect(rows[0].figures).toEqual([600_00, 450_00, 150_00, 150 / 450, 600_00]);
    expect(rows[1].figures).toEqual([100_00, 50_00, 50_00, 1, 100_00]);
    expect(rows[2].figures).toEqual([0, 0, 0, null, 100_00]);
    expect(rows[3].figures).toEqual([500_00, 400_00, 100_00, 0.25, 600_00]);
  });

  it('gives shares of all and of the group above', async () => {
    const design = report(
      [value('v'), { key: 'all', shareOf: 'v', in: 'all' }, { key: 'group', shareOf: 'v', in: 'group' }],
      { where: won, groups: [{ field: 'owner' }, { field: 'source' }] },
    );
    expect(rowsOf(await answered(design)).map(([name, , all, group]) => [name, all, group])).toEqual([
      ['', 1, 1],
      ['1', 450 / 1050, 450 / 1050],
      ['1/fair', 300 / 1050, 300 / 450],
      ['1/web', 150 / 1050, 150 / 450],
      ['2', 600 / 1050, 600 / 1050],
      ['2/fair', 400 / 1050, 400 / 600],
      ['2/web', 200 / 1050, 200 / 600],
    ]);
  });

  it('puts the first few in the order of a figure, and the others together', async () => {
    const figures: ReportFigure[] = [
      value('v'),
      { key: 'sofar', running: 'v' },
      { key: 'half', measure: { as: 'median', of: 'value' } },
    ];
    const design = report(
      figures,
      { where: { join: 'any', of: [won, lost] }, groups: [{ field: 'owner' }] },
      { order: { figure: 'v', descending: true }, top: 1 },
    );
    const { rows } = await answered(design);
    expect(rows.map(({ keys, figures: of, rest }) => [keys, of, rest])).toEqual([
      [[], [1580_00, 1580_00, 100_00], undefined],
      [[2], [1000_00, 1000_00, 400_00], undefined],
      // 10, 50, 50, 70, 100 and 300: asked for, as medians do not add up.
      [[], [580_00, 1580_00, 60_00], 2],
    ]);
  });

  it('takes the first away from all where that comes to the same as asking for the others, and asks no more', async () => {
    const figures: ReportFigure[] = [
      value('v'),
      count('n', lost),
      { key: 'then', past: 'v', of: 'yearBefore' },
      { key: 'share', shareOf: 'v', in: 'all' },
    ];
    const more = {
      order: { figure: 'v', descending: true },
      top: 1,
      period: year,
      split: { field: 'source' },
    };
    const counted = async (of: ReportFigure[]) => {
      let asked = 0;
      const { rows } = await answerReport(
        report(of, { groups: [{ field: 'owner' }] }, more),
        context,
        (...question) => {
          asked += 1;
          return figuresFrom({ deal: deals }, context, around)(...question);
        },
      );
      const shown = rows.map(({ keys, rest, count: n, figures: all, split = [] }) => [
        ...[keys, rest, n, all.slice(0, 4)],
        split.map((each) => [each.count, each.figures.slice(0, 4)]),
      ]);
      return { asked, shown };
    };
    const takenAway = await counted(figures);
    // A median is not told from others, so that all of them are asked for.
    const askedFor = await counted([...figures, { key: 'half', measure: { as: 'median', of: 'value' } }]);
    expect(takenAway.shown).toEqual(askedFor.shown);
    expect(takenAway.shown.at(-1)?.[1]).toBe(2);
    expect(takenAway.asked).toBe(askedFor.asked - 4);
  });

  it('does so by figures that are made of others, and within further groups', async () => {
    const design = report(
      [count('won', won), count('lost', lost), { key: 'rate', formula: 'won / (won + lost)' }, value('v')],
      { groups: [{ field: 'owner' }, { field: 'outcome' }] },
      { order: { figure: 'rate', descending: true }, top: 1, period: year },
    );
    const byRate = await answered(design);
    expect(byRate.rows.map(({ keys, count: n, rest }) => [keys.join('/'), n, rest])).toEqual([
      ['', 6, undefined],
      ['1', 3, undefined],
      ['1/won', 2, undefined],
      ['1/lost', 1, undefined],
      ['', 3, 2],
    ]);
    const byValue = await answered({
      ...design,
      order: { figure: 'v', descending: true },
      split: { field: 'source' },
    });
    expect(byValue.rows.map(({ keys, count: n, rest }) => [keys.join('/'), n, rest])).toEqual([
      ['', 6, undefined],
      ['2', 2, undefined],
      ['2/lost', 1, undefined],
      ['2/won', 1, undefined],
      ['', 4, 2],
    ]);
    const [whole, ...parts] = [byValue.rows[0], byValue.rows[1], byValue.rows[4]].map(({ split = [] }) =>
      split.map(({ count: n }) => n),
    );
    expect(parts[0].map((n, index) => n + parts[1][index])).toEqual(whole);
  });

  it('leaves out innermost groups by their figures, and says how many', async () => {
    const design = report(
      [count('n')],
      { groups: [{ field: 'owner' }] },
      { keep: [{ figure: 'n', is: 'below', value: 4 }] },
    );
    const { rows, dropped } = await answered(design);
    expect(rows.map(({ keys }) => keys)).toEqual([[], [3]]);
    expect(dropped).toBe(2);
  });

  it('splits every figure, of every level', async () => {
    const design = report(
      [value('v')],
      { where: { join: 'any', of: [won, lost] }, groups: [{ field: 'owner' }] },
      { split: { field: 'outcome' } },
    );
    const { splits, rows } = await answered(design);
    expect(splits).toEqual(['won', 'lost']);
    expect(rows.map(({ keys, split = [] }) => [keys[0], ...split.map(({ figures }) => figures[0])])).toEqual([
      [undefined, 1050_00, 530_00],
      [1, 450_00, 50_00],
      [2, 600_00, 400_00],
      [3, 0, 80_00],
    ]);
  });

  it('gives the same whether levels are added up or asked for', async () => {
    const groups = [{ field: 'owner' }, { field: 'source' }];
    const more: Partial<ReportDesign> = { split: { field: 'outcome' }, period: year };
    const added = await answered(report([count('n'), value('v')], { groups }, more));
    const asked = await answered(
      report([count('n'), value('v'), { key: 'm', measure: { as: 'most', of: 'value' } }], { groups }, more),
    );
    const firstTwo = (rows: ReportAnswer['rows']) =>
      rows.map(({ keys, count: n, figures, split }) => [
        keys,
        n,
        figures.slice(0, 2),
        split?.map((each) => [each.count, each.figures.slice(0, 2)]),
      ]);
    expect(firstTwo(asked.rows)).toEqual(firstTwo(added.rows));
  });

  it('opens exactly the records behind every row, cell and figure', async () => {
    const design = report(
      [count('n'), count('won', won)],
      { groups: [{ field: 'owner' }, { field: 'closedOn', by: 'quarter' }] },
      { split: { field: 'source' }, period: year, top: 1 },
    );
    const { rows, splits } = await answered(design);
    const first = rows.filter(({ keys, rest }) => keys.length === 1 && !rest).map(({ keys }) => keys[0]);
    const found = (place: Parameters<typeof recordsBehind>[2]) =>
      select(recordsBehind(design, context, place), deals, context, around).length;
    for (const { keys, rest, figures, split = [] } of rows) {
      const beyond = rest ? { first } : {};
      for (const [index, figure] of design.figures.entries()) {
        expect(found({ keys, figure, ...beyond })).toBe(figures[index]);
        for (const [at, { figures: of }] of split.entries())
          expect(found({ keys, figure, split: splits[at], ...beyond })).toBe(of[index]);
      }
    }
    expect(rows.length).toBeGreaterThan(4);
  });

  it('opens the records of the other period behind what was then, and all of them behind a running total', async () => {
    const figures: ReportFigure[] = [
      count('n', won),
      { key: 'then', past: 'n', of: 'yearBefore' },
      { key: 'sofar', running: 'n' },
      { key: 'part', shareOf: 'n', in: 'all' },
    ];
    const design = report(figures, { groups: [{ field: 'closedOn', by: 'month' }] }, { period: year });
    const { rows } = await answered(design);
    const found = (place: Parameters<typeof recordsBehind>[2]) =>
      select(recordsBehind(design, context, place), deals, context, around).length;
    for (const [index, { keys, figures: of }] of rows.slice(1).entries()) {
      const upTo = rows.slice(1, index + 2).map((row) => row.keys[0]);
      expect([
        found({ keys, figure: figures[0] }),
        found({ keys, figure: figures[1] }),
        found({ keys, figure: figures[2], upTo }),
      ]).toEqual(of.slice(0, 3));
      expect(found({ keys, figure: figures[3] })).toBe(of[0]);
    }
    expect(rows[3].figures.slice(0, 3)).toEqual([2, 1, 3]);
  });

  it('goes down a level with the same figures as its group had', async () => {
    const figures: ReportFigure[] = [count('n', won), { key: 'then', past: 'n', of: 'yearBefore' }];
    for (const groups of [
      [{ field: 'owner' }, { field: 'closedOn', by: 'month' as const }],
      [{ field: 'closedOn', by: 'quarter' as const }, { field: 'owner' }],
    ]) {
      const design = report(figures, { groups }, { period: year });
      const { rows } = await answered(design);
      const firsts = rows.filter(({ keys }) => keys.length === 1);
      for (const { keys, figures: whole } of firsts) {
        const inside = await answered(furtherDown(design, keys, context));
        expect([keys, inside.rows[0].figures]).toEqual([keys, whole]);
        expect(inside.rows.every((row) => row.keys.length <= 1)).toBe(true);
      }
      expect(firsts.length).toBeGreaterThan(2);
    }
  });

  it('of a field that is not seen has no figure, not even nought', async () => {
    const { value: _hidden, ...rest } = builtIn.own.deal;
    const narrowed = { ...builtIn, own: { ...builtIn.own, deal: rest } } as QuestionContext['catalogue'];
    const design = report([count('n'), value('v'), { key: 'f', formula: 'v / n' }]);
    const { rows } = await answerReport(design, { ...context, catalogue: narrowed }, (question) =>
      Promise.resolve({
        rows: [
          { keys: [], figures: (question.measures ?? []).map(({ as }) => (as === 'count' ? 10 : null)) },
        ],
        names: {},
        leftOut: [],
        unrated: 0,
        isCut: false,
      }),
    );
    expect(rows[0].figures).toEqual([10, null, null]);
  });
});

it('is answered without a group or a split that is not seen, and says so', async () => {
  const groups = [{ field: 'gone' }, { field: 'owner' }];
  const { rows, leftOut, splits } = await answered(
    report([count('n')], { where: won, groups }, { split: { field: 'hidden' } }),
  );
  expect(rows.map(({ keys, count: n }) => [...keys, n])).toEqual([[5], [1, 3], [2, 2]]);
  expect(splits).toEqual([]);
  expect(leftOut.map(({ part, at }) => [part, at])).toEqual([
    ['gone', 'groups'],
    ['hidden', 'groups'],
  ]);
});

describe('the period a report is compared with', () => {
  const compared = (named: ReportDesign['period'], against: 'before' | 'yearBefore' = 'before') =>
    named && daysCompared(named, against, context);
  const closedIn = (named: NonNullable<ReportDesign['period']>['in']) => ({ field: 'closedOn', in: named });
  it.each([
    [closedIn({ unit: 'month', offset: 0 }), '2026-10-01', '2026-11-01'],
    [closedIn({ unit: 'quarter', offset: 0, toDate: true }), '2026-07-01', '2026-08-20'],
    [closedIn({ unit: 'month', offset: 0, toDate: true }), '2026-10-01', '2026-10-20'],
    [closedIn({ direction: 'last', count: 30, unit: 'day' }), '2026-09-21', '2026-10-21'],
    [closedIn({ direction: 'last', count: 12, unit: 'month' }), '2024-11-20', '2025-11-20'],
    [closedIn({ from: '2026-03-01', to: '2026-03-10' }), '2026-02-19', '2026-03-01'],
    [closedIn({ from: '2026-10-01', to: '2026-10-31' }), '2026-09-01', '2026-10-01'],
    [closedIn({ from: '2026-04-01', to: '2026-06-30' }), '2026-01-01', '2026-04-01'],
    [closedIn({ from: '2025-01-01', to: '2026-12-31' }), '2023-01-01', '2025-01-01'],
    [closedIn({ from: '2026-10-02', to: '2026-10-31' }), '2026-09-02', '2026-10-02'],
  ])('before %j lies %s to %s', (named, from, to) => {
    expect(compared(named)).toEqual({ from, to });
  });

  it('is the same a year before, on 29 February too', () => {
    expect(compared(closedIn({ from: '2028-02-29', to: '2028-02-29' }), 'yearBefore')).toEqual({
      from: '2027-02-28',
      to: '2027-03-01',
    });
  });
});

describe('a formula', () => {
  const figures: Record<string, number | null> = { a: 6, b: 4, c: 0, n: null };
  it.each([
    ['a + b * 2', 14],
    ['(a + b) × 2', 20],
    ['a - b - 1', 1],
    ['a / b', 1.5],
    ['-a + 10', 4],
    ['2.5 * b', 10],
    ['a / c', null],
    ['a + n', null],
    ['a / (b - 4)', null],
    ['max(b - a, 0)', 0],
    ['min(a, b) + max(a, b * 2)', 12],
    ['max(a, n)', null],
  ])('%s is %s', (text, result) => {
    const read = readFormula(text);
    if (isFormulaFault(read)) throw new Error(read.message);
    expect(evaluate(read, (key) => figures[key])).toBe(result);
  });

  it.each([
    ['', 'Something is missing at the end', 0],
    ['a +', 'Something is missing at the end', 3],
    ['a b', 'A sign such as + or / is missing here', 2],
    ['(a + b', 'A parenthesis is not closed', 6],
    ['a + * b', 'Something is missing before “*”', 4],
    ['a % b', '“%” cannot stand in a formula', 2],
    ['max(a)', '“max” takes two figures, with a comma between them', 5],
    ['max(a, b', 'A parenthesis is not closed', 8],
    ['a, b', 'A sign such as + or / is missing here', 1],
    ['won; drop', '“;” cannot stand in a formula', 3],
    ['('.repeat(60), 'There are too many parentheses within each other', 51],
  ])('%j is refused: %s', (text, message, at) => {
    expect(readFormula(text)).toEqual({ message, at });
  });

  it('never fails otherwise than by saying what is wrong, and where', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'abmx1. +-*/(),') }), (text) => {
        const read = readFormula(text);
        if (isFormulaFault(read)) expect(read.at).toBeLessThanOrEqual(text.length);
        else expect(evaluate(read, () => 1)).not.toBeUndefined();
      }),
    );
  });
});

describe('a report that cannot be made', () => {
  const faults = (design: unknown) =>
    checkReport(design, builtIn).faults.map(({ field, message }) => `${field}: ${message}`);
  it.each<[string, Partial<ReportDesign>, string]>([
    ['a formula over nothing', { figures: [{ key: 'a', formula: 'b * 2' }] }, 'There is no figure “b”'],
    [
      'a formula with a fault',
      { figures: [{ key: 'a', formula: '2 *' }] },
      'Something is missing at the end (at character 4)',
    ],
    [
      'a circle',
      {
        figures: [
          { key: 'a', formula: 'b' },
          { key: 'b', formula: 'a + 1' },
        ],
      },
      'is made of itself',
    ],
    [
      'a sum of text',
      { figures: [{ key: 'a', measure: { as: 'sum', of: 'name' } }] },
      'cannot be counted up',
    ],
    [
      'a count of tags',
      { figures: [{ key: 'a', measure: { as: 'distinct', of: 'tags' } }] },
      'cannot be counted',
    ],
    ['no percentile', { figures: [{ key: 'a', measure: { as: 'percentile', of: 'value' } }] }, 'Percentile'],
    [
      'a change without a period',
      { figures: [count('a'), { key: 'b', change: 'a', against: 'before', as: 'amount' }] },
      'nothing to compare with',
    ],
    [
      'a change of a change',
      {
        period: year,
        figures: [
          count('a'),
          { key: 'b', change: 'a', against: 'before', as: 'amount' },
          { key: 'c', past: 'b', of: 'before' },
        ],
      },
      'cannot be compared again',
    ],
    ['two of one name', { figures: [count('a'), count('a')] }, 'Two figures have the same name'],
    ['an unknown order', { order: { figure: 'z' } }, 'There is no figure “z”'],
    [
      'an order by what follows it',
      { figures: [count('a'), { key: 'b', running: 'a' }], order: { figure: 'b' } },
      'depends on the order',
    ],
    ['a period of no date', { period: { ...year, field: 'name' } }, 'is no date'],
    [
      'a period backwards',
      { period: { field: 'closedOn', in: { from: '2026-02-01', to: '2026-01-01' } } },
      'ends before it begins',
    ],
    ['nothing to show', { figures: [] }, 'figures'],
  ])('is told: %s', (_, more, message) => {
    expect(faults(report([count('a')], {}, more)).join('\n')).toContain(message);
  });

  it('has more groups than can be read', () => {
    const groups = ['owner', 'stage', 'outcome', 'source'].map((field) => ({ field }));
    expect(faults(report([count('a')], { groups })).join()).toContain('at most 3 groups');
  });
});

it('comes ready-made without fault, each under a name of its own', () => {
  for (const { design, key } of readyReports)
    expect([key, checkReport(design, builtIn).faults]).toEqual([key, []]);
  expect(new Set(readyReports.map(({ key }) => key)).size).toBe(readyReports.length);
});
