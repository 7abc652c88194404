import { addressParts, readDelimited, splitColumns, type ColumnSplit } from '.';

const table = (...rows: string[]) => readDelimited(`${rows.join('\n')}\n`);

describe('an address in one cell', () => {
  it.each([
    ['Kaistraße 12, 20457 Hamburg', ['Kaistraße 12', '20457', 'Hamburg', '']],
    ['Kaistraße 12\n20457 Hamburg\nDeutschland', ['Kaistraße 12', '20457', 'Hamburg', 'Deutschland']],
    ['Kaistraße 12 20457 Hamburg', ['Kaistraße 12', '20457', 'Hamburg', '']],
    ['Storgata 5, 0155 Oslo, Norge', ['Storgata 5', '0155', 'Oslo', 'Norge']],
    ['Skeppsbron 2, SE-411 04 Göteborg', ['Skeppsbron 2', 'SE-411 04', 'Göteborg', '']],
    ['Nieuwe Kade 3, 1011 AB Amsterdam', ['Nieuwe Kade 3', '1011 AB', 'Amsterdam', '']],
    ['ul. Portowa 4, 80-001 Gdańsk', ['ul. Portowa 4', '80-001', 'Gdańsk', '']],
    ['Rua do Cais 5, 1100-148 Lisboa', ['Rua do Cais 5', '1100-148', 'Lisboa', '']],
    ['12 Dock Road, Hull, HU1 2AB', ['12 Dock Road', 'HU1 2AB', 'Hull', '']],
    ['12 Dock Road, Hull HU1 2AB, United Kingdom', ['12 Dock Road', 'HU1 2AB', 'Hull', 'United Kingdom']],
    ['Unit 4, 12 Dock Road, Hull HU1 2AB', ['Unit 4, 12 Dock Road', 'HU1 2AB', 'Hull', '']],
    ['400 Pier Avenue, Springfield, IL 62704', ['400 Pier Avenue', '62704', 'Springfield, IL', '']],
    ['7 Wharf Street, Sydney NSW 2000, Australia', ['7 Wharf Street', '2000', 'Sydney NSW', 'Australia']],
    ['9 Harbour Way, Toronto, ON M5V 2T6', ['9 Harbour Way', 'M5V 2T6', 'Toronto, ON', '']],
  ])('%j', (text, parts) => {
    expect(addressParts(text)).toEqual(parts);
  });

  it.each([
    'Dock Road 12',
    'Hull',
    '20457 Hamburg',
    'behind the old crane, ask at the gate',
    '12, 14 and 16',
    '',
  ])('is left whole where it cannot be told which is which: %j', (text) => {
    expect(addressParts(text)).toBeUndefined();
  });
});

describe('a column that is split', () => {
  const addresses = [
    'Firma;Adresse',
    'Seegrab GmbH;Kai 1, 20457 Hamburg',
    'Ottertor AG;Ufer 2, 28195 Bremen',
  ];

  it('stands in several, in its place, without being asked where all are addresses', () => {
    const split = splitColumns(table(...addresses));
    expect(split.headings).toEqual(['Firma', 'Street', 'Postcode', 'Town']);
    expect(split.rows.map(({ cells }) => cells)).toEqual([
      ['Seegrab GmbH', 'Kai 1', '20457', 'Hamburg'],
      ['Ottertor AG', 'Ufer 2', '28195', 'Bremen'],
    ]);
    expect(split.splits).toEqual([{ column: 1, at: 'address', heading: 'Adresse', from: 1, parts: 3 }]);
  });

  it('says which addresses stay whole, and loses nothing of them', () => {
    const split = splitColumns(table(...addresses, 'Alt AG;hinter dem Kran', 'Neu AG;Kai 4, 20457 Hamburg'));
    expect(split.rows[2].cells).toEqual(['Alt AG', 'hinter dem Kran', '', '']);
    expect(split.notes).toEqual([
      'The address of row 4 under “Adresse” could not be split and stands whole under Street.',
    ]);
  });

  it.each([
    ['a postcode has a column of its own', ['Adresse;PLZ', 'Kai 1, 20457 Hamburg;20457']],
    ['most are no addresses', ['Adresse', 'Kai 1', 'Ufer 2', 'Kai 1, 20457 Hamburg']],
    ['the heading says something else', ['Notes', '12 Dock Road, Hull HU1 2AB']],
    ['Zawn wrote the file', ['Zawn id;Street', '4;Kai 1, 20457 Hamburg']],
  ])('stays whole where %s', (_, rows) => {
    expect(splitColumns(table(...rows)).splits).toBeUndefined();
  });

  const emails = ['Name,Emails,Town', 'Runa,"a@x.example, b@x.example",Hull', 'Per,c@x.example,Oslo'];

  it.each<[string, ColumnSplit[], string[], string[]]>([
    [
      'at a sign',
      [{ column: 1, at: 'comma' }],
      ['Name', 'Emails 1', 'Emails 2', 'Town'],
      ['Per', 'c@x.example', '', 'Oslo'],
    ],
    [
      'twice, wherever the others stand',
      [
        { column: 1, at: 'comma' },
        { column: 0, at: 'space' },
      ],
      ['Name 1', 'Emails 1', 'Emails 2', 'Town'],
      ['Per', 'c@x.example', '', 'Oslo'],
    ],
    ['not at all', [], ['Name', 'Emails', 'Town'], ['Per', 'c@x.example', 'Oslo']],
    [
      'that is not there: not at all',
      [{ column: 9, at: 'comma' }],
      ['Name', 'Emails', 'Town'],
      ['Per', 'c@x.example', 'Oslo'],
    ],
  ])('is split as was said: %s', (_, chosen, headings, last) => {
    const split = splitColumns(table(...emails), chosen);
    expect([split.headings, split.rows[1].cells]).toEqual([headings, last]);
  });

  it('keeps what is beyond six parts in the last', () => {
    const split = splitColumns(table('Tags', 'a;b', 'x'), [{ column: 0, at: 'comma' }]);
    expect(split.headings).toEqual(['Tags 1']);
    const many = splitColumns({ ...table('Tags', 'x'), rows: [{ row: 2, cells: ['1/2/3/4/5/6/7/8'] }] }, [
      { column: 0, at: 'slash' },
    ]);
    expect(many.rows[0].cells).toEqual(['1', '2', '3', '4', '5', '6, 7, 8']);
  });
});
