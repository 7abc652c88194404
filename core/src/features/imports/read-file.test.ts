import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import Papa from 'papaparse';
import { unguarded } from '../exports';
import {
  DELIMITERS,
  decodeText,
  guessEncoding,
  readBeginning,
  readCards,
  readDelimited,
  readFile,
  readJsonLines,
  UnreadableFile,
} from '.';

const bytes = (text: string) => new TextEncoder().encode(text);
const latin = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const utf16 = (text: string, mark = true) => {
  const buffer = new Uint8Array(text.length * 2 + (mark ? 2 : 0));
  const view = new DataView(buffer.buffer);
  if (mark) view.setUint16(0, 0xfeff, true);
  for (let index = 0; index < text.length; index += 1)
    view.setUint16(index * 2 + (mark ? 2 : 0), text.charCodeAt(index), true);
  return buffer;
};

/** A workbook of one sheet with these rows of XML. */
const workbook = (rows: string, parts: Record<string, string> = {}) =>
  zipSync(
    Object.fromEntries(
      Object.entries({
        'xl/workbook.xml':
          '<workbook xmlns:r="r"><sheets><sheet name="People" sheetId="1" r:id="rId1"/></sheets></workbook>',
        'xl/_rels/workbook.xml.rels':
          '<Relationships><Relationship Id="rId1" Target="worksheets/sheet1.xml"/></Relationships>',
        'xl/styles.xml':
          '<styleSheet><numFmts><numFmt numFmtId="164" formatCode="dd/mm/yyyy"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="164"/><xf numFmtId="14"/></cellXfs></styleSheet>',
        'xl/sharedStrings.xml':
          '<sst><si><t>Name</t></si><si><r><t>Runa </t></r><r><t>Seagrave</t></r></si></sst>',
        'xl/worksheets/sheet1.xml': `<worksheet><sheetData>${rows}</sheetData></worksheet>`,
        ...parts,
      }).map(([name, text]) => [name, strToU8(text)]),
    ),
  );

const head = '<row r="1"><c r="A1" t="s"><v>0</v></c><c r="C1" t="inlineStr"><is><t>Since</t></is></c></row>';

describe('delimited text', () => {
  it.each([
    ['', 'The file is empty'],
    [' \n \n', 'The file is empty'],
    ['Name,Mail\n', 'no rows below'],
    ['a\0b,c', 'neither text nor a workbook'],
    [`${Array.from({ length: 2000 }, (_, index) => `c${index}`).join(',')}\nx`, 'has 2000 columns'],
    [`Name\n"${'x'.repeat(30_000)}`, 'Row 2, column 1 holds 30001 characters'],
  ])('is refused with the reason: %#', (text, message) => {
    expect(() => readDelimited(text)).toThrow(UnreadableFile);
    expect(() => readDelimited(text)).toThrow(message);
  });

  it('is cut by the character that cuts most rows alike, which is said', () => {
    const table = readDelimited('Name;Note, long\n"Runa ""R"" Seagrave";"two\nlines"\nPer;x, y\n');
    expect(table).toMatchObject({
      headings: ['Name', 'Note, long'],
      rows: [
        { row: 2, cells: ['Runa "R" Seagrave', 'two\nlines'] },
        { row: 3, cells: ['Per', 'x, y'] },
      ],
      delimiter: { value: ';', why: 'The semicolon cuts 100 % of the rows into 2 cells' },
    });
  });

  it('may have a title above its headings, or none at all', () => {
    const titled = readDelimited('Visitors of the coast fair\n\nName,Mail,Town\nRuna,r@s.example,Seagrave\n');
    expect(titled.headingRow).toMatchObject({ value: 3, sure: 0.8 });
    expect(titled.rows).toEqual([{ row: 4, cells: ['Runa', 'r@s.example', 'Seagrave'] }]);
    const bare = readDelimited('runa@seagrave.example,01632 960001\nper@tolmouth.example,01632 960002');
    expect(bare.headings).toEqual(['Column A', 'Column B']);
    expect(bare.rows).toHaveLength(2);
    expect(readDelimited('a,b\nc,d', { headingRow: 0 }).rows).toHaveLength(2);
  });

  it('fills short rows up and keeps long ones, so that none is quietly cut', () => {
    expect(readDelimited('Name,Town\nRuna\nPer,x,extra').rows.map(({ cells }) => cells.length)).toEqual([
      2, 3,
    ]);
  });

  it('gives back what was written, for every delimiter and quote', () => {
    const cell = fc.stringMatching(/^[a-z"',;|\t\n =+-]{0,12}$/).map((text) => text.trim());
    const rows = fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(rows, fc.constantFrom(...DELIMITERS), fc.boolean(), (cells, [delimiter], quotes) => {
        const filled = cells.filter((row) => row.some((each) => each !== ''));
        fc.pre(filled.length > 0);
        // A line within a cell that is a whole row is taken for one.
        const isRow = (line: string) => line.split(delimiter).length >= 3;
        fc.pre(!filled.flat().some((each) => each.split('\n').slice(1, -1).some(isRow)));
        const text = Papa.unparse([['Name', 'Role', 'Town'], ...filled], { delimiter, quotes });
        const table = readDelimited(text, { delimiter, headingRow: 1 });
        const read = table.rows.map((row) => Array.from({ length: 3 }, (_, index) => row.cells[index] ?? ''));
        expect(read).toEqual(filled.map((row) => row.map((each) => unguarded(each).trim())));
      }),
      { numRuns: 400 },
    );
  });
});

describe('an encoding', () => {
  const text = 'Name,Town\nÅse Ørsted,Malmö\n';
  it.each([
    ['utf-8', bytes(text)],
    ['utf-8', bytes(`\uFEFF${text}`)],
    ['utf-16le', utf16(text)],
    ['utf-16le', utf16(text, false)],
    ['windows-1252', latin(text)],
  ] as const)('is recognised: %s', async (encoding, file) => {
    expect(guessEncoding(file).value).toBe(encoding);
    const table = await readFile(file);
    expect(table.rows[0].cells).toEqual(['Åse Ørsted', 'Malmö']);
    expect(table.headings[0]).toBe('Name');
  });

  it('is not mistaken because a first look ends within a letter', () => {
    const cutOff = bytes('aé').subarray(0, 2);
    expect(guessEncoding(cutOff, { isPart: true }).value).toBe('utf-8');
    expect(guessEncoding(cutOff).value).not.toBe('utf-8');
    expect(decodeText(latin('é'), 'windows-1252')).toBe('é');
  });
});

describe('a workbook', () => {
  it('has its cells read as they are shown: shared texts, days, numbers, what formulas came to', async () => {
    const file = workbook(
      `${head}<row r="3"><c r="A3" t="s"><v>1</v></c><c r="B3"><f>1+1</f><v>2.50</v></c><c r="C3" s="1"><v>46112</v></c></row><row r="900000"/><row r="900001"><c r="C900001" s="2"><v>46112.5</v></c></row>`,
    );
    const table = await readFile(file);
    expect(table).toMatchObject({
      format: 'workbook',
      headings: ['Name', '', 'Since'],
      sheet: 'People',
      isTyped: true,
    });
    expect(table.rows).toEqual([
      { row: 3, cells: ['Runa Seagrave', '2.5', '2026-03-31'] },
      { row: 900_001, cells: ['', '', '2026-03-31 12:00'] },
    ]);
  });

  it('shows its numbers as their formats do, where these say more', async () => {
    const formats = [
      ['0%', 0.5, '50%'],
      ['0.0%', 0.07, '7%'],
      ['00000', 1234, '01234'],
      ['(000) 000-0000', 2025550123, '(202) 555-0123'],
      ['[$€-407] #,##0.00', 1234.5, '€ 1234.5'],
      ['"£"#,##0.00', 12, '£ 12'],
      ['#,##0.00\\ "kr"', 500, 'kr 500'],
      ['[$USD] #,##0', 7, 'USD 7'],
      ['h:mm', 0.604166666666667, '14:30'],
      ['dd/mm/yyyy', 45719, '2025-03-03'],
      ['#,##0', 1234567, '1234567'],
      ['0.00', 0.1 + 0.2, '0.3'],
      ['General', 42, '42'],
    ] as const;
    const escaped = (text: string) => text.replaceAll('"', '&quot;');
    const styles = `<styleSheet><numFmts>${formats
      .map(([pattern], at) => `<numFmt numFmtId="${200 + at}" formatCode="${escaped(pattern)}"/>`)
      .join('')}</numFmts><cellXfs>${formats
      .map((_, at) => `<xf numFmtId="${200 + at}"/>`)
      .join('')}<xf numFmtId="9"/><xf numFmtId="20"/></cellXfs></styleSheet>`;
    const numbers = [...formats.map(([, number]) => number), 0.25, 0.5];
    const rows = numbers.map(
      (number, at) =>
        `<row r="${at + 2}"><c r="A${at + 2}" t="s"><v>1</v></c><c r="C${at + 2}" s="${at}"><v>${number}</v></c></row>`,
    );
    const table = await readFile(workbook(`${head}${rows.join('')}`, { 'xl/styles.xml': styles }));
    expect(table.rows.map(({ cells }) => cells[2])).toEqual([
      ...formats.map(([, , shown]) => shown),
      '25%',
      '12:00',
    ]);
  });

  it('says when a formula was never worked out', async () => {
    const file = workbook(`${head}<row r="2"><c r="A2" t="s"><v>1</v></c><c r="C2"><f>1+1</f></c></row>`);
    const { notes, rows } = await readFile(file);
    expect(notes).toEqual([expect.stringContaining('A formula (row 2) holds no value')]);
    expect(rows[0].cells[2]).toBe('');
  });

  it('of a million empty rows is read for the one that says something', async () => {
    const empty = Array.from({ length: 999_998 }, (_, at) => `<row r="${at + 2}"/>`).join('');
    const last = '<row r="1000000"><c r="A1000000" t="s"><v>1</v></c></row>';
    const table = await readFile(workbook(`${head}${empty}${last}`));
    expect(table.rows).toEqual([{ row: 1_000_000, cells: ['Runa Seagrave', '', ''] }]);
  });

  it('says that macros were not looked at, and follows no link to another file', async () => {
    const file = workbook(`${head}<row r="2"><c r="A2" t="s"><v>1</v></c></row>`, {
      'xl/vbaProject.bin': 'x',
      'xl/externalLinks/externalLink1.xml': '<externalLink/>',
    });
    expect((await readFile(file)).notes).toEqual(['The macros in this workbook were not looked at.']);
  });

  it('that unpacks to a mountain is refused before it is unpacked', async () => {
    const bomb = zipSync({
      'xl/workbook.xml': strToU8(
        '<workbook xmlns:r="r"><sheets><sheet name="A" r:id="r1"/></sheets></workbook>',
      ),
      'xl/_rels/workbook.xml.rels': strToU8('<R><Relationship Id="r1" Target="worksheets/sheet1.xml"/></R>'),
      'xl/worksheets/sheet1.xml': new Uint8Array(60_000_000),
    });
    await expect(readFile(bomb)).rejects.toThrow('unpacks to 60 MB');
  });

  it.each([
    ['cut off', workbook(head).subarray(0, 300)],
    ['without a sheet', zipSync({ 'a.txt': strToU8('x') })],
    ['of broken XML', workbook('<row r="1"><c r="A1"></row>')],
    ['of the old kind', Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0, 1, 2])],
    ['empty', workbook('')],
  ])('%s is refused with what to do', async (_, file) => {
    await expect(readFile(file)).rejects.toThrow(UnreadableFile);
  });

  it('does not blow up entities', async () => {
    const file = workbook(`${head}<row r="2"><c r="A2" t="inlineStr"><is><t>&lol;</t></is></c></row>`);
    await expect(readFile(file)).rejects.toThrow(UnreadableFile);
  });
});

describe('cards', () => {
  const card = (lines: string) => `BEGIN:VCARD\r\n${lines}\r\nEND:VCARD\r\n`;

  it('of versions 3 and 4 become rows', async () => {
    const three = card(
      'VERSION:3.0\r\nN:Seagrave;Runa;;;\r\nFN:Runa Seagrave\r\nORG:Seagrave Harbour Trust;Pilots\r\nTITLE:Harbour\r\n  master\r\nTEL;TYPE=WORK,VOICE:01632 960001\r\nTEL;TYPE=CELL:07700 900001\r\nEMAIL;TYPE=INTERNET:runa@seagrave.example\r\nADR;TYPE=WORK:;;1 Quay;Seagrave;;SG1 1AA;United Kingdom',
    );
    const four = card(
      'VERSION:4.0\r\nFN:Per Ottergate\r\nTEL;VALUE=uri;TYPE=work:tel:+46-8-465-004-12\r\nCATEGORIES:fair,tender',
    );
    const table = await readFile(bytes(three + four));
    const read = table.rows.map(({ cells }) =>
      Object.fromEntries(table.headings.map((name, at) => [name, cells[at]])),
    );
    expect(read[0]).toMatchObject({
      Name: 'Runa Seagrave',
      Role: 'Harbour master',
      Organisation: 'Seagrave Harbour Trust',
      Email: 'runa@seagrave.example',
      Phone: '01632 960001',
      Mobile: '07700 900001',
      Town: 'Seagrave',
      Postcode: 'SG1 1AA',
    });
    expect(read[1]).toMatchObject({ Name: 'Per Ottergate', Phone: '+46-8-465-004-12', Tags: 'fair, tender' });
  });

  it('that are broken are left out one by one, and said', async () => {
    const table = await readCards(card('VERSION:4.0\r\nFN:Runa') + card('VERSION:4.0\r\nnonsense'));
    expect(table.rows).toHaveLength(1);
    expect(table.notes).toEqual(['Card 2 is broken and was left out.']);
    await expect(readCards('BEGIN:VCARD\nFN:Runa')).rejects.toThrow('no whole card');
  });
});

describe('JSON lines', () => {
  it('become rows, with what an object holds one level down', () => {
    const table = readJsonLines(
      '{"name":"Runa","account":{"name":"Trust"},"tags":["a","b"],"big":true}\n\n{"name":"Per"}',
    );
    expect(table.headings).toEqual(['name', 'account name', 'tags', 'big']);
    expect(table.rows.map(({ cells }) => cells)).toEqual([
      ['Runa', 'Trust', 'a, b', 'yes'],
      ['Per', '', '', ''],
    ]);
  });

  it('may stand in one array', async () => {
    const file = bytes(' [\n {"name": "Runa"},\n {"name": "Per", "town": "Tolmouth"}\n]');
    const table = await readFile(file);
    expect(table).toMatchObject({
      format: 'jsonLines',
      headings: ['name', 'town'],
      rows: [{ row: 1, cells: ['Runa', ''] }, { row: 2 }],
    });
    const large = bytes(
      JSON.stringify(Array.from({ length: 30_000 }, (_, at) => ({ name: `Visitor ${at}` }))),
    );
    expect((await readBeginning(large)).rows).toHaveLength(200);
  });

  it.each([
    ['[{"a":1}, 7]', 'Member 2 is not an object'],
    ['[{"a":1}, {', 'is broken'],
    ['{"a":1}\n{broken', 'Line 2 is not JSON'],
    ['{"a":1}\n[1]', 'Line 2 is not an object'],
    ['', 'empty'],
  ])('refuses %j naming the line', (text, message) => {
    expect(() => readJsonLines(text)).toThrow(message);
  });
});

describe('the first look', () => {
  it('reads the beginning of a large file only, its last row whole', async () => {
    const line = 'Runa Seagrave,runa@seagrave.example,"Seagrave, by the sea"\n';
    const large = bytes(`Name,Mail,Town\n${line.repeat(200_000)}`);
    // Others share the machine: what counts is how long this process is at it.
    const began = process.cpuUsage();
    const table = await readBeginning(large);
    const { user, system } = process.cpuUsage(began);
    expect((user + system) / 1000).toBeLessThan(1500);
    expect(table.rows.length).toBeGreaterThanOrEqual(200);
    expect(new Set(table.rows.map(({ cells }) => cells.length))).toEqual(new Set([3]));
  });

  it('sees the same as the whole reading for a small file', async () => {
    const file = bytes('Name;Town\nRuna;Seagrave\n');
    expect(await readBeginning(file)).toEqual(await readFile(file));
  });
});
