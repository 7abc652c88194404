import { strToU8, zipSync } from 'fflate';
import { readCards, readFile, type Table } from '.';

/** A spreadsheet as OpenDocument packs it: what it is stands first, as it is. */
const spreadsheet = (tables: string, parts: Record<string, string> = {}) =>
  zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
    'content.xml': strToU8(
      `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x" xmlns:style="s"><office:automatic-styles><style:style style:name="away"><style:table-properties table:display="false"/></style:style></office:automatic-styles><office:body><office:spreadsheet>${tables}</office:spreadsheet></office:body></office:document-content>`,
    ),
    ...Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)])),
  });
const row = (cells: string, more = '') => `<table:table-row${more}>${cells}</table:table-row>`;
const text = (value: string, more = '') =>
  `<table:table-cell office:value-type="string"${more}><text:p>${value}</text:p></table:table-cell>`;
const typed = (type: string, more: string, shown: string) =>
  `<table:table-cell office:value-type="${type}" ${more}><text:p>${shown}</text:p></table:table-cell>`;
const rest = '<table:table-cell table:number-columns-repeated="16380"/>';
const nothingBelow = row(
  '<table:table-cell table:number-columns-repeated="16384"/>',
  ' table:number-rows-repeated="1048570"',
);
const cellsOf = (table: Table) => table.rows.map(({ cells }) => cells);

describe('an OpenDocument spreadsheet', () => {
  it('is read by what its cells are, not by how they are shown', async () => {
    const heads = ['Name', 'Postcode', 'Value', 'Share', 'Since', 'At', 'Customer', 'Said'];
    const table = await readFile(
      spreadsheet(
        `<table:table table:name="People">${row(heads.map((head) => text(head)).join('') + rest)}${row(
          [
            text('Runa <text:span>Seagrave</text:span><text:s text:c="2"/>jr'),
            typed('float', 'office:value="1234"', '01234'),
            typed('currency', 'office:currency="EUR" office:value="1234.5"', '1.234,50 €'),
            typed('percentage', 'office:value="0.125"', '12,5 %'),
            typed('date', 'office:date-value="2026-03-31T00:00:00"', '31.03.26'),
            typed('time', 'office:time-value="PT14H30M00S"', '14:30'),
            typed('boolean', 'office:boolean-value="true"', 'WAHR'),
            `<table:table-cell office:value-type="string"><office:annotation><text:p>a remark</text:p></office:annotation><text:p>one</text:p><text:p>two</text:p></table:table-cell>`,
          ].join(''),
        )}${nothingBelow}</table:table>`,
      ),
    );
    expect(table).toMatchObject({ format: 'workbook', isTyped: true, sheet: 'People', headings: heads });
    expect(cellsOf(table)).toEqual([
      ['Runa Seagrave  jr', '01234', 'EUR 1234.5', '12.5%', '2026-03-31', '14:30', 'yes', 'one\ntwo'],
    ]);
  });

  it('has its repeated cells and rows, and what was merged downwards, in every row', async () => {
    const table = await readFile(
      spreadsheet(
        `<table:table table:name="A">${row(text('Account') + text('Contact') + text('Town'))}${row(
          text('Trust', ' table:number-rows-spanned="2" table:number-columns-spanned="1"') +
            text('Runa') +
            text('Tolmouth'),
        )}${row(`<table:covered-table-cell/>${text('Per')}<table:table-cell/>`)}${row(text('Same', ' table:number-columns-repeated="2"') + rest, ' table:number-rows-repeated="2"')}</table:table>`,
      ),
    );
    expect(cellsOf(table)).toEqual([
      ['Trust', 'Runa', 'Tolmouth'],
      ['Trust', 'Per', ''],
      ['Same', 'Same', ''],
      ['Same', 'Same', ''],
    ]);
    expect(table.rows.map(({ row: number }) => number)).toEqual([2, 3, 4, 5]);
  });

  it('begins with the first sheet that is not hidden; others are chosen by name', async () => {
    const sheet = (name: string, value: string, style = '') =>
      `<table:table table:name="${name}"${style}>${row(text('Name'))}${row(text(value))}</table:table>`;
    const file = spreadsheet(
      sheet('Old', 'Ada', ' table:style-name="away"') + sheet('New', 'Runa') + sheet('More', 'Per'),
    );
    expect(await readFile(file)).toMatchObject({
      sheet: 'New',
      sheets: [
        { name: 'Old', rows: 2 },
        { name: 'New', rows: 2 },
        { name: 'More', rows: 2 },
      ],
      rows: [{ cells: ['Runa'] }],
    });
    expect(cellsOf(await readFile(file, { sheet: 'More' }))).toEqual([['Per']]);
  });

  it.each([
    [spreadsheet('<table:table table:name="A"/>'), 'The sheet “A” is empty'],
    [spreadsheet('<table:table table:name="A"><table:ro'), 'damaged'],
    [
      spreadsheet('', {
        'META-INF/manifest.xml': '<m:manifest xmlns:m="m"><m:encryption-data/></m:manifest>',
      }),
      'protected by a password',
    ],
  ])('is refused with the reason: %#', async (file, why) => {
    await expect(readFile(file)).rejects.toThrow(why);
  });
});

describe('a workbook', () => {
  it('gives what was merged downwards to every row, and says how long its sheets are', async () => {
    const cell = (at: string, value: string) => `<c r="${at}" t="inlineStr"><is><t>${value}</t></is></c>`;
    const file = zipSync(
      Object.fromEntries(
        Object.entries({
          'xl/workbook.xml':
            '<workbook xmlns:r="r"><sheets><sheet name="People" r:id="r1"/><sheet name="Rest" r:id="r2"/></sheets></workbook>',
          'xl/_rels/workbook.xml.rels':
            '<R><Relationship Id="r1" Target="worksheets/1.xml"/><Relationship Id="r2" Target="worksheets/2.xml"/></R>',
          'xl/worksheets/1.xml': `<worksheet><sheetData><row r="1">${cell('A1', 'Account')}${cell('B1', 'Contact')}</row><row r="2">${cell('A2', 'Trust')}${cell('B2', 'Runa')}</row><row r="3">${cell('B3', 'Per')}</row><row r="4">${cell('B4', 'Ada')}</row></sheetData><mergeCells count="1"><mergeCell ref="A2:A3"/></mergeCells></worksheet>`,
          'xl/worksheets/2.xml': '<worksheet><sheetData><row r="1"/><row r="2"/></sheetData></worksheet>',
        }).map(([name, part]) => [name, strToU8(part)]),
      ),
    );
    const table = await readFile(file);
    expect(cellsOf(table)).toEqual([
      ['Trust', 'Runa'],
      ['Trust', 'Per'],
      ['', 'Ada'],
    ]);
    expect(table.sheets).toEqual([
      { name: 'People', rows: 4, isHidden: false },
      { name: 'Rest', rows: 2, isHidden: false },
    ]);
  });
});

describe('cards', () => {
  const card = (...lines: string[]) => ['BEGIN:VCARD', ...lines, 'END:VCARD', ''].join('\r\n');
  const read = async (...cards: string[]) => {
    const table = await readCards(cards.join(''));
    return table.rows.map(({ cells }) =>
      Object.fromEntries(table.headings.map((name, at) => [name, cells[at]])),
    );
  };

  it('of version 2.1 are read with their own encodings and bare types', async () => {
    const [runa] = await read(
      card(
        'VERSION:2.1',
        'N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:Sk=C3=A6rgaard;J=C3=B8rgen',
        'FN;CHARSET=ISO-8859-1;ENCODING=QUOTED-PRINTABLE:J=F8rgen Sk=E6rgaard',
        'ORG:Tolmouth Water, Ltd;Pumps',
        'TEL;WORK;VOICE:+45 33 00 00 01',
        'TEL;CELL:+45 33 00 00 02',
        'TEL;FAX:+45 33 00 00 03',
        'EMAIL;INTERNET:j@tolmouth.example',
        'ADR;WORK:;;Quay 1;Tolmouth;;1000;Denmark',
        'NOTE;ENCODING=QUOTED-PRINTABLE:First line=0D=0Asecond line that goes =',
        'on here',
        'PHOTO;ENCODING=BASE64;JPEG:/9j/4AAQSkZJRgABAQAAAQABAAD',
        '',
      ),
    );
    expect(runa).toEqual({
      Name: 'Jørgen Skærgaard',
      'First name': 'Jørgen',
      'Last name': 'Skærgaard',
      Organisation: 'Tolmouth Water, Ltd',
      Email: 'j@tolmouth.example',
      Phone: '+45 33 00 00 01',
      Mobile: '+45 33 00 00 02',
      Street: 'Quay 1',
      Town: 'Tolmouth',
      Postcode: '1000',
      Country: 'Denmark',
      Notes: 'First line\nsecond line that goes on here',
    });
  });

  it('give what is preferred first, what is grouped too, and lose no further address or number', async () => {
    const [three, four] = await read(
      card(
        'VERSION:3.0',
        'FN:Runa\\, Seagrave\\; jr',
        'item1.EMAIL;TYPE=HOME:home@seagrave.example',
        'item2.EMAIL;TYPE=WORK,PREF:work@seagrave.example',
        'TEL;TYPE=WORK:1',
        'TEL;TYPE=HOME:2',
      ),
      card(
        'VERSION:4.0',
        'FN:Per',
        'TEL;PREF=2:1',
        'TEL;PREF=1:2',
        'EMAIL:per@a.example',
        'EMAIL:per@b.example',
      ),
    );
    expect(three).toMatchObject({
      Name: 'Runa, Seagrave; jr',
      Email: 'work@seagrave.example',
      'Other emails': 'home@seagrave.example',
      Phone: '1',
      'Other phones': '2',
    });
    expect(four).toMatchObject({ Email: 'per@a.example', 'Other emails': 'per@b.example', Phone: '2' });
  });

  it('of what is no person are left out and said', async () => {
    const table = await readCards(
      card('VERSION:4.0', 'FN:Runa') +
        card('VERSION:4.0', 'KIND:group', 'FN:Pilots') +
        card('VERSION:4.0', 'KIND:org', 'FN:Trust'),
    );
    expect(cellsOf(table)).toEqual([['Runa']]);
    expect(table.notes).toEqual([
      'Card 2 is of a group of people and was left out.',
      'Card 3 is of an organisation and was left out.',
    ]);
  });
});
