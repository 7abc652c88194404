import fc from 'fast-check';
import {
  drawingWords,
  fieldAt,
  isDated,
  printed,
  readPrinted,
  usualRules,
  type Asked,
  type AskedDrawing,
  type Catalogue,
  type Question,
  type Vocabulary,
} from '@zawn/core';
import { anyFiguresQuestion, anyRecordsQuestion, asked } from '../../kernel/questions/any-question';
import { Gate } from '../../kernel/questions/gate';
import { Organisation } from '../../kernel/organisation/organisation';
import { startServer, Caller, type TestServer } from '../../testing';

const CASES = Number(process.env.ZAWN_FUZZ_CASES ?? 1000);

let server: TestServer;
let catalogue: Catalogue;
let vocabulary: Vocabulary;
beforeAll(async () => {
  server = await startServer({ demo: true });
  const { id } = await Caller.signIn(server, 'signe.abernock');
  const actor = await server.app.get(Organisation).actor(id);
  ({ catalogue } = await server.app.get(Gate).context(actor!));
  const names = (of: string) =>
    Array.from({ length: 9 }, (_, index) => ({ id: index + 1, name: `${of} ${index + 1}` }));
  vocabulary = {
    catalogue,
    today: '2026-11-19',
    calendar: { fiscalYearStart: 4, weekStart: 1 },
    currency: 'GBP',
    people: [
      { id: 1, name: 'Nora' },
      { id: 2, name: 'Nora Fairlough' },
      { id: 3, name: 'me or Nora' },
      { id: 4, name: 'Nora' },
    ],
    teams: names('Team'),
    pipelines: names('Pipeline'),
    stages: [...names('Stage'), { id: 10, name: 'Proposal, out' }],
    lists: names('List').map((list) => ({ ...list, object: 'deal' as const })),
    views: [],
    rules: usualRules,
  };
}, 60_000);
afterAll(() => server.close());

/** A question without what says nothing: a date's unit where there is no date, an order that is as usual, a count. */
function plain(question: Question): unknown {
  const { object, groups, sort, first, measures = [], ...rest } = question;
  const alike = (at: number) =>
    measures.findIndex((each) => JSON.stringify(each) === JSON.stringify(measures[at]));
  const isDate = (field: string) => isDated(fieldAt(catalogue, object, field)?.type ?? 'text');
  const cut = <T extends { field: string; by?: unknown }>({ by, ...each }: T) =>
    by !== undefined && isDate(each.field) ? { ...each, by } : each;
  const whole = {
    ...rest,
    object,
    ...(measures.length > 0 ? { measures } : {}),
    // The same figure twice is one to go by.
    ...(first ? { first: { ...first, measure: alike(first.measure) } } : {}),
    ...(groups && groups.length > 0 ? { groups: groups.map(cut) } : {}),
    ...(sort && sort.length > 0
      ? {
          sort: sort.map((each) => ({
            ...cut(each),
            ...(each.descending ? { descending: true } : { descending: undefined }),
          })),
        }
      : {}),
  };
  return JSON.parse(
    JSON.stringify(whole, (key, value: unknown) => {
      // The records themselves are counted where no figure is named.
      if (key === 'figure' && JSON.stringify(value) === '{"as":"count"}') return undefined;
      return value;
    }),
  ) as unknown;
}

describe('a question as it is printed', () => {
  it.each(Object.entries(drawingWords) as [AskedDrawing, string][])(
    'is read back with how it is drawn: %s, %s',
    (draw, words) => {
      const asked: Asked = { question: { version: 1, object: 'deal', groups: [{ field: 'stage' }] }, draw };
      const text = printed(asked, vocabulary);
      expect(text).toBe(`All deals, grouped by stage, as ${words}`);
      expect(readPrinted(text, vocabulary)).toEqual(asked);
    },
  );

  it.each<[string, Parameters<typeof printed>[0]]>([
    [
      'Deals where outcome is Open, with the columns name, value and account’s name called “The ””client””, and more”',
      {
        question: {
          version: 1,
          object: 'deal',
          where: { field: 'outcome', is: 'anyOf', value: ['open'] },
          columns: ['name', 'value', 'account.name'],
          labels: { 'account.name': 'The ”client”, and more' },
        },
      },
    ],
    [
      'All leads, grouped by source, showing number of leads, in order of created latest first, the first 5, as a line, compared with the year before',
      {
        question: {
          version: 1,
          object: 'lead',
          groups: [{ field: 'source' }],
          measures: [{ as: 'count' }],
          sort: [{ field: 'createdAt', descending: true }],
        },
        limit: 5,
        draw: 'line',
        compared: 'yearBefore',
      },
    ],
    [
      'Deals where owner is any of #1, Nora Fairlough or me or Nora and stage is Proposal, out, as it stood at the end of last month',
      {
        question: {
          version: 1,
          object: 'deal',
          where: {
            join: 'all',
            of: [
              { field: 'owner', is: 'anyOf', value: [1, 2, 3] },
              { field: 'stage', is: 'anyOf', value: [10] },
            ],
          },
          asOf: { unit: 'month', offset: -1 },
        },
      },
    ],
  ])('says “%s”, and is read back', (text, said) => {
    expect(printed(said, vocabulary)).toBe(text);
    expect(readPrinted(text, vocabulary)).toEqual(said);
  });

  it('is read as nothing where a letter is another', () => {
    expect(readPrinted('Deals where outcome is Opem', vocabulary)).toBeUndefined();
    expect(readPrinted('deals where outcome is Open', vocabulary)).toBeUndefined();
  });

  it.each(asked.flatMap((object) => [[object, 'records'] as const, [object, 'figures'] as const]))(
    'of %s, for %s, is read as the same question',
    (object, kind) => {
      const any =
        kind === 'records' ? anyRecordsQuestion(catalogue, object) : anyFiguresQuestion(catalogue, object);
      fc.assert(
        fc.property(any, (question) => {
          const text = printed({ question }, vocabulary);
          const read = readPrinted(text, vocabulary);
          expect([text, read && plain(read.question)]).toEqual([text, plain(question)]);
        }),
        { numRuns: Math.ceil(CASES / asked.length / 2) },
      );
    },
  );
});
