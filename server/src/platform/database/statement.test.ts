import BetterSqlite from 'better-sqlite3';
import { columnsOf, listsOf, rowsFrom, rowsOf } from './statement';

const TEXTS = [
  'a "quoted" one',
  'back\\slash',
  'line\nline',
  'paragraph\u2029',
  '漢字 🌊',
  '[1]',
  '{"a":1}',
  'null',
  '',
];
const NUMBERS = [0, -1, 2 ** 53 - 1, 0.1 + 0.2, 123456789.12345679, 1e300, -5e-324];

describe('the values of a statement', () => {
  const database = new BetterSqlite(':memory:');
  database.exec('CREATE TABLE kept (id INTEGER PRIMARY KEY, said TEXT, much NUMERIC)');
  const insert = database.prepare('INSERT INTO kept (said, much) VALUES (?, ?)');
  for (const text of TEXTS) insert.run(text, null);
  for (const number of NUMBERS) insert.run(null, number);
  afterAll(() => void database.close());

  const all = {
    sql: 'SELECT said AS "said", much AS "much" FROM kept WHERE id > ? ORDER BY id DESC',
    parameters: [0],
  };

  it('are the same, in the same order, read by rows, by columns and as lists', () => {
    const said = [...TEXTS, ...NUMBERS.map(() => null)].reverse();
    const much = [...TEXTS.map(() => null), ...NUMBERS].reverse();
    expect(listsOf(database, all)).toEqual([said, much]);
    expect(columnsOf(database, all)).toEqual({ names: ['said', 'much'], values: [said, much] });
    expect(rowsOf(database, all)).toEqual(rowsFrom(columnsOf(database, all)));
  });

  it('are empty lists where nothing is found', () => {
    expect(listsOf(database, { ...all, parameters: [1000] })).toEqual([[], []]);
  });

  it('keep to the limit of the statement', () => {
    expect(listsOf(database, { ...all, sql: `${all.sql} LIMIT 2` })).toEqual([
      [null, null],
      [-5e-324, 1e300],
    ]);
  });
});
