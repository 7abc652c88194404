import fc from 'fast-check';
import Papa from 'papaparse';
import {
  identityOf,
  matchColumns,
  planImport,
  readCell,
  readDay,
  readNumber,
  readTable,
  refusedFile,
  UnreadableFile,
  type ImportSettings,
} from '.';
import { builtIn, fieldOf, type Field } from '../catalogue';

const settings = (columns: (string | null)[], known: string[] = []): ImportSettings => ({
  catalogue: builtIn,
  object: 'lead',
  columns,
  defaults: { owner: 1, status: 'untouched' },
  locale: { country: 'GB' },
  reading: { people: [{ id: 2, name: 'Ewan Castellin', email: 'ewan@brackwater.example' }], currency: 'GBP' },
  known: new Set(known),
});

const plan = (text: string, known: string[] = []) => {
  const table = readTable(text);
  return planImport(table, settings(matchColumns(builtIn, 'lead', table.headings), known));
};

describe('reading a file', () => {
  it.each([
    ['', 'The file is empty'],
    [' \n \n', 'The file is empty'],
    ['Name,Mail\n', 'no rows below'],
    ['PK\u0003\u0004\0\0', 'not a text file'],
    ['runa@seagrave.example,01632 960001\nx,y', 'Row 1 must hold the column names'],
    [',,\na,b,c', 'Row 1 must hold the column names'],
  ])('refuses %j', (text, message) => {
    expect(() => readTable(text)).toThrow(UnreadableFile);
    expect(() => readTable(text)).toThrow(message);
  });

  it('finds the delimiter and keeps line breaks and quotes in cells', () => {
    expect(readTable('Name;Note\n"Runa ""R"" Seagrave";"two\nlines"\n')).toMatchObject({
      headings: ['Name', 'Note'],
      rows: [{ row: 2, cells: ['Runa "R" Seagrave', 'two\nlines'] }],
      delimiter: ';',
    });
    expect(readTable('\uFEFFName\tMail\nRuna\tx').headings).toEqual(['Name', 'Mail']);
  });

  it('gives back what was written, for every delimiter', () => {
    const cell = fc.stringMatching(/^[a-z"',;|\n ]{0,12}$/).map((text) => text.trim().replace(/\r/g, ''));
    const rows = fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(rows, fc.constantFrom(',', ';', '\t', '|'), (cells, delimiter) => {
        const filled = cells.filter((row) => row.some((each) => each !== ''));
        fc.pre(filled.length > 0);
        const text = Papa.unparse([['Name', 'Role', 'Town'], ...filled], { delimiter, quotes: true });
        const table = readTable(text);
        expect(table.rows.map((row) => row.cells)).toEqual(filled.map((row) => [...row]));
      }),
    );
  });
});

describe('matching columns', () => {
  it('knows labels, keys and synonyms in any spelling, and gives each field out once', () => {
    expect(
      matchColumns(builtIn, 'lead', ['Full Name', 'COMPANY', 'e-mail', 'Phone', 'Mobile', 'Shoe size', '']),
    ).toEqual(['name', 'organisation', 'email', 'phone', null, null, null]);
  });

  it('prefers a label to a synonym further left', () => {
    expect(matchColumns(builtIn, 'lead', ['Contact', 'Name'])).toEqual([null, 'name']);
  });
});

describe('reading cells', () => {
  it.each([
    ['12,500.00', 12_500],
    ['12.500,00', 12_500],
    ['12 500', 12_500],
    ['12,500', 12_500],
    ['12.5', 12.5],
    ['£1,234,567', 1_234_567],
    ['EUR 24.500,50', 24_500.5],
    ['-3', -3],
    ['lots', undefined],
    ['', undefined],
  ])('takes %s for %s', (text, number) => expect(readNumber(text)).toBe(number));

  it('reads dates day first', () => {
    expect(['2026-03-31', '31.3.2026', '31/03/2026', '31-03-2026', '03/31/2026'].map(readDay)).toEqual([
      '2026-03-31',
      '2026-03-31',
      '2026-03-31',
      '2026-03-31',
      undefined,
    ]);
  });

  it('finds choices by label and people by name or mail', () => {
    const { reading } = settings([]);
    expect(readCell(fieldOf(builtIn, 'lead', 'source') as Field, 'trade FAIR', reading)).toBe('fair');
    expect(readCell(fieldOf(builtIn, 'lead', 'owner') as Field, 'EWAN@brackwater.example', reading)).toBe(2);
    expect(readCell(fieldOf(builtIn, 'lead', 'budget') as Field, '12.50', reading)).toBe(1250);
    expect(() => readCell(fieldOf(builtIn, 'lead', 'owner') as Field, 'Nobody', reading)).toThrow(
      'nobody here is called “Nobody”',
    );
  });
});

describe('planning an import', () => {
  it('creates good rows and refuses others, naming the cell', () => {
    const { create, refused } = plan(
      'Name,E-Mail,Source,Owner\nRuna,Runa@Seagrave.example,Website,Ewan Castellin\n,x@y.example,,\nPer,per at home,Pigeon,\n',
    );
    expect(create).toEqual([
      {
        row: 2,
        values: expect.objectContaining({
          name: 'Runa',
          email: 'runa@seagrave.example',
          source: 'website',
          owner: 2,
        }) as object,
      },
    ]);
    expect(refused).toEqual([
      { row: 3, column: 0, reason: 'Name is missing' },
      { row: 4, column: 2, reason: expect.stringContaining('“Pigeon” is not one of') as string },
      { row: 4, column: 1, reason: 'Mail is not a mail address' },
    ]);
  });

  it('refuses rows with too few or too many cells', () => {
    const { create, refused } = plan('Name,City\nRuna,Seagrave\nPer\nEva,Tolmouth,extra\n');
    expect(create).toHaveLength(1);
    expect(refused.map(({ reason }) => reason)).toEqual([
      'The row has 1 cells, the heading row 2',
      'The row has 3 cells, the heading row 2',
    ]);
  });

  it('skips what is there already and what stands twice in the file', () => {
    const { create, skipped } = plan(
      'Name,Mail,Company\nRuna,r@s.example,\nRuna S,R@S.example,\nPer,p@s.example,\nEva,,Tolmouth\n',
      ['p@s.example', 'eva · tolmouth'],
    );
    expect(create.map(({ row }) => row)).toEqual([2]);
    expect(skipped).toEqual([
      { row: 3, reason: 'r@s.example stands in row 2 already' },
      { row: 4, reason: 'p@s.example is there already' },
      { row: 5, reason: 'Eva is there already' },
    ]);
  });

  it('accounts for every row exactly once', () => {
    const cell = fc.constantFrom('', 'Runa', 'a@b.example', 'x at y', 'Website', '12', 'Per');
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 20 }),
        (rows) => {
          const table = {
            headings: ['Name', 'Mail', 'Source'],
            delimiter: ',',
            rows: rows.map((cells, index) => ({ row: index + 2, cells })),
          };
          const { create, skipped, refused } = planImport(table, settings(['name', 'email', 'source']));
          const seen = [...create, ...skipped]
            .map(({ row }) => row)
            .concat([...new Set(refused.map(({ row }) => row))]);
          expect(seen.sort((a, b) => a - b)).toEqual(table.rows.map(({ row }) => row));
          // The same file again changes nothing.
          const known = new Set(create.map(({ values }) => identityOf(values)));
          expect(planImport(table, { ...settings(['name', 'email', 'source']), known }).create).toEqual([]);
        },
      ),
    );
  });

  it('writes the refused rows in the file’s own shape, safe for spreadsheets', () => {
    const table = readTable('Name,Source\n,Website\n=1+1,Pigeon\nRuna,Website\n');
    const { refused } = planImport(table, settings(['name', 'source']));
    expect(refusedFile(table, refused).split('\r\n')).toEqual([
      'Name,Source,Reason',
      ',Website,Name is missing',
      expect.stringMatching(/^"'=1\+1",Pigeon,/) as string,
    ]);
  });
});
