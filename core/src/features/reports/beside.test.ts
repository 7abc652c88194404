import { builtIn, type AnyRecord, type ObjectKey } from '../../kernel/catalogue';
import { ask, select } from '../../kernel/questions';
import { askedInLondon as context } from '../../kernel/questions/testing';
import { checkReport } from './report-schema';
import {
  ANY_GROUP,
  figureLabel,
  formatOf,
  furtherDown,
  howMade,
  recordsBehind,
  type OtherRecords,
  type ReportDesign,
  type ReportFigure,
} from '.';
import { answeredFrom } from './testing';

const head = { version: 1, createdBy: 1, createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '' };
let last = 0;
const record = (values: object) => ({ ...head, id: (last += 1), ...values }) as unknown as AnyRecord;
const people = ['Ada', 'Bo', 'Cy'].map((name, index) => record({ name, team: index < 2 ? 1 : 2 }));
const records: Partial<Record<ObjectKey, AnyRecord[]>> = {
  deal: [
    record({
      owner: 1,
      outcome: 'won',
      closedOn: '2026-10-10',
      value: 100_00,
      currency: 'GBP',
      source: 'web',
    }),
    record({
      owner: 1,
      outcome: 'won',
      closedOn: '2026-11-01',
      value: 300_00,
      currency: 'GBP',
      source: 'fair',
    }),
    record({
      owner: 2,
      outcome: 'won',
      closedOn: '2025-11-01',
      value: 700_00,
      currency: 'GBP',
      source: 'web',
    }),
    record({
      owner: 2,
      outcome: 'open',
      closeOn: '2026-12-01',
      value: 90_00,
      currency: 'GBP',
      source: 'web',
    }),
    record({
      owner: 1,
      outcome: 'open',
      closeOn: '2027-12-01',
      value: 50_00,
      currency: 'GBP',
      source: 'web',
    }),
  ],
  target: [
    record({ owner: 1, team: null, startsOn: '2026-10-01', amount: 250_00, currency: 'GBP' }),
    record({ owner: 3, team: null, startsOn: '2026-10-01', amount: 80_00, currency: 'GBP' }),
    record({ owner: 2, team: null, startsOn: '2025-10-01', amount: 1000_00, currency: 'GBP' }),
    record({ owner: null, team: 1, startsOn: '2026-10-01', amount: 5000_00, currency: 'GBP' }),
  ],
};
const around = {
  find: (object: ObjectKey, id: number) =>
    object === 'person' ? people.find((each) => each.id === id) : undefined,
  linking: () => [],
  rates: [],
};
const won = { field: 'outcome', is: 'anyOf', value: ['won'] } as const;
const open = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;
const match = { owner: 'owner', 'owner.team': 'owner.team' };
const ofTargets: OtherRecords = {
  object: 'target',
  where: { field: 'owner', is: 'isNotEmpty' },
  period: 'startsOn',
  match,
};
const figures: ReportFigure[] = [
  { key: 'won', measure: { as: 'sum', of: 'value' } },
  { key: 'target', measure: { as: 'sum', of: 'amount' }, beside: ofTargets },
  { key: 'needed', formula: 'max(target - won, 0)' },
  {
    key: 'open',
    measure: { as: 'sum', of: 'value' },
    beside: { object: 'deal', where: open, period: 'closeOn', match },
  },
  { key: 'open2', past: 'target', of: 'yearBefore' },
];
const design: ReportDesign = {
  version: 1,
  question: { ...ask('deal', won), groups: [{ field: 'owner' }] },
  period: { field: 'closedOn', in: { from: '2026-10-01', to: '2026-12-31' } },
  figures,
  draw: 'none',
};
const answered = (of: ReportDesign) => answeredFrom(of, records, context, around);
const rowsOf = async (of: ReportDesign) =>
  (await answered(of)).rows.map(({ keys, count, figures: found }) => [keys.join('/'), count, ...found]);

describe('figures of other records beside those of a report', () => {
  it('stand in the same groups and periods, by their own fields, with groups that only they have', async () => {
    expect(await rowsOf(design)).toEqual([
      ['', 2, 400_00, 330_00, 0, 90_00, 1000_00],
      ['1', 2, 400_00, 250_00, 0, 0, 0],
      ['2', 0, 0, 0, 0, 90_00, 1000_00],
      ['3', 0, 0, 80_00, 80_00, 0, 0],
    ]);
  });

  it('are told as far down as fields of theirs stand for the groups, and no further', async () => {
    const groups = [{ field: 'owner' }, { field: 'source' }];
    const deeper = await rowsOf({ ...design, question: { ...design.question, groups } });
    expect(deeper.map(([keys, , ownWon, target]) => [keys, ownWon, target])).toEqual([
      ['', 400_00, 330_00],
      ['1', 400_00, 250_00],
      ['1/fair', 300_00, null],
      ['1/web', 100_00, null],
      ['2', 0, 0],
      ['2/web', 0, null],
      ['3', 0, 80_00],
    ]);
    const bySource = { ...design, question: { ...design.question, groups: groups.toReversed() } };
    expect((await rowsOf(bySource)).map(([keys, , , target]) => [keys, target])).toEqual([
      ['', 330_00],
      ['fair', null],
      ['fair/1', null],
      ['web', null],
      ['web/1', null],
      ['web/2', null],
    ]);
    // Gone into such a group, nothing is told of them, not even in all.
    const [[, , ownWon, target, needed]] = await rowsOf(furtherDown(bySource, ['web'], context));
    expect([ownWon, target, needed]).toEqual([100_00, null, null]);
  });

  it('stand in each group alike where they are not told apart by it', async () => {
    const all: OtherRecords = { ...ofTargets, match: { owner: ANY_GROUP, source: ANY_GROUP } };
    const alike: ReportDesign = {
      ...design,
      question: { ...design.question, groups: [{ field: 'owner' }] },
      split: { field: 'source' },
      figures: [figures[0], { key: 'all', measure: { as: 'sum', of: 'amount' }, beside: all }],
    };
    const { rows, splits } = await answered(alike);
    expect(rows.map(({ keys, figures: found }) => [keys.join(), ...found])).toEqual([
      ['', 400_00, 330_00],
      ['1', 400_00, 330_00],
    ]);
    expect(splits).toEqual(['fair', 'web']);
    expect(rows[1].split?.map(({ figures: found }) => found)).toEqual([
      [300_00, 330_00],
      [100_00, 330_00],
    ]);
    const question = recordsBehind(alike, context, { keys: [1], split: 'web', figure: alike.figures[1] });
    expect(select(question, records.target ?? [], context, around)).toHaveLength(2);
    expect((await answered(furtherDown(alike, [1], context))).rows[0].figures).toEqual([400_00, 330_00]);
  });

  it('go down with the report', async () => {
    const groups = [{ field: 'owner.team' }, { field: 'owner' }];
    const whole = { ...design, question: { ...design.question, groups } };
    const [, second] = await rowsOf(whole);
    expect(second.slice(0, 4)).toEqual(['1', 2, 400_00, 250_00]);
    expect(await rowsOf(furtherDown(whole, [1], context))).toEqual([
      ['', 2, 400_00, 250_00, 0, 90_00, 1000_00],
      ['1', 2, 400_00, 250_00, 0, 0, 0],
      ['2', 0, 0, 0, 0, 90_00, 1000_00],
    ]);
  });

  it('open exactly their own records', () => {
    const behind = (key: string, keys: number[]) => {
      const figure = figures.find((each) => each.key === key);
      const question = recordsBehind(design, context, { keys, figure });
      return select(question, records[question.object] ?? [], context, around).map((found) => [
        question.object,
        found.amount ?? found.value,
      ]);
    };
    expect(behind('target', [])).toEqual([
      ['target', 250_00],
      ['target', 80_00],
    ]);
    expect(behind('target', [3])).toEqual([['target', 80_00]]);
    expect(behind('open2', [2])).toEqual([['target', 1000_00]]);
    expect(behind('open', [2])).toEqual([['deal', 90_00]]);
    expect(behind('won', [1])).toHaveLength(2);
  });

  it('are named and said how they are made by what they are of', () => {
    const wording = {
      catalogue: builtIn,
      day: (day: string) => day,
      name: () => '',
      money: String,
      number: String,
    } as never;
    expect(figureLabel(figures[1], design, builtIn)).toBe('Sum of target of targets');
    expect(formatOf(figures[1], design, builtIn)).toBe('money');
    const said = howMade(figures[1], design, wording, {
      period: { from: '2026-10-01', to: '2027-01-01' },
      compared: {},
    }).join(' ');
    expect(said).toContain('Targets where');
    expect(said).toContain('“quarter from” from 2026-10-01 to 2026-12-31');
  });

  it('are refused where they cannot be asked, or stand for another kind', () => {
    const faultsOf = (more: object, question: object = {}) =>
      checkReport(
        {
          ...design,
          question: { ...design.question, ...question },
          figures: [{ key: 'a', measure: { as: 'sum', of: 'amount' }, beside: { ...ofTargets, ...more } }],
        },
        builtIn,
      ).faults.map(({ field, message }) => `${field}: ${message}`);
    expect(faultsOf({})).toEqual([]);
    expect(faultsOf({ match: { owner: 'team' } })[0]).toContain('Team cannot stand for owner');
    expect(faultsOf({ period: 'amount' })[0]).toContain('Target is no date');
    expect(faultsOf({ object: 'nothing' })).not.toEqual([]);
    expect(faultsOf({ where: { field: 'owner' } })).not.toEqual([]);
    expect(faultsOf({}, { asOf: '2026-01-01' })[0]).toContain('as they stood');
  });
});
