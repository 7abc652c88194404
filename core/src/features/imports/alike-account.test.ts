import {
  alikeKey,
  keyText,
  planImport,
  readDelimited,
  readRows,
  guessSetup,
  setupFrom,
  type ImportPlan,
  type ImportSetup,
} from '.';
import { builtIn, type AnyRecord } from '../../kernel/catalogue';

const onFile = [
  { id: 3, name: 'Fjordlys', domain: 'fjordlys.example' },
  { id: 4, name: 'Seegrab GmbH', domain: null },
  { id: 5, name: 'Ottertor AG', domain: 'ottertor.example' },
  { id: 6, name: 'Ottertor KG', domain: 'ottertor-kg.example' },
];

function planned(
  target: 'contact' | 'account',
  file: string[],
  change: Partial<ImportSetup> = {},
): ImportPlan {
  const table = readDelimited(`${file.join('\n')}\n`);
  const setup = { ...setupFrom(guessSetup(builtIn, target, table), target, 1), ...change };
  const around = {
    catalogue: builtIn,
    locale: { country: 'GB' },
    currency: 'GBP',
    named: {},
    owners: undefined,
    defaults: {
      lead: {},
      contact: { owner: 1, relationship: 'prospect' },
      account: { owner: 1, relationship: 'prospect' },
      deal: {},
      activity: {},
    },
    today: '2026-11-19',
    timeZone: 'Europe/London',
  };
  const known = {
    find: (object: string, key: never, text: string) =>
      object === 'account'
        ? onFile
            .filter((record) => keyText(key, record) === text)
            .map((record) => ({ record: record as unknown as AnyRecord }))
        : [],
  };
  return planImport(readRows(table, setup, around), setup, known, around);
}

describe('a name without legal form and habits of spelling', () => {
  it.each([
    ['Fjordlys AS', 'FJORDLYS'],
    ['Fjordlys A/S', 'Fjordlys'],
    ['Acqua Chiara S.p.A.', 'Acqua Chiara spa'],
    ['Sjömärke Aktiebolag AB (publ)', 'Sjömärke Aktiebolag (publ)'],
    ['Port Gdynia Sp. z o.o.', 'Port Gdynia'],
    ['Seegrab GmbH & Co. KG', 'Seegrab'],
    ['The Hull Pilots Ltd.', 'Hull Pilots Limited'],
    ['Aguas do Tejo, Lda', 'Águas do Tejo'],
    ['Přístav s.r.o.', 'Pristav'],
  ])('%s is %s', (one, other) => {
    expect(alikeKey(one)).toBe(alikeKey(other));
  });

  it.each([
    ['Water 1', 'Water 10'],
    ['Hull Pilots', 'Hull Piloting'],
    ['AS', 'AG'],
  ])('%s is not %s', (one, other) => {
    expect(alikeKey(one)).not.toBe(alikeKey(other));
  });
});

describe('accounts that are probably the same', () => {
  const people = [
    'Name,Email,Company',
    'Inga Lund,inga@mail.example,Fjordlys AS',
    'Odd Lund,odd@mail.example,FJORDLYS A/S',
    'Uwe Holm,uwe@mail.example,Seegrab',
    'Ada Brandt,ada@fjordlys.example,Fjord Light',
    'Per Sund,per@mail.example,Ottertor',
    'Eva Sund,eva@mail.example,Nordkai',
    'Liv Sund,liv@mail.example,Nordkai AS',
  ];

  it('are new until somebody says so, and it is said why they may be on file', () => {
    const { others, alike, taken, create } = planned('contact', people);
    expect(create).toHaveLength(7);
    expect([alike, taken]).toEqual([5, []]);
    expect(others.map(({ values, why }) => [values.name, why])).toEqual([
      ['Fjordlys AS', 'probably “Fjordlys”: the same name, spelt differently'],
      ['FJORDLYS A/S', 'probably “Fjordlys”: the same name, spelt differently'],
      ['Seegrab', 'probably “Seegrab GmbH”: the same name, spelt differently'],
      ['Fjord Light', 'probably “Fjordlys”: the email address is at its website'],
      // Which of two of that name is meant nobody can tell.
      ['Ottertor', undefined],
      ['Nordkai', undefined],
      ['Nordkai AS', 'probably “Nordkai” of row 7: the same name, spelt differently'],
    ]);
  });

  it('are the same all at once when somebody says so', () => {
    const { others, alike, taken, create } = planned('contact', people, { alike: 'same' });
    expect(create.map(({ links }) => links.account)).toEqual([
      { id: 3 },
      { id: 3 },
      { id: 4 },
      { id: 3 },
      { made: 0 },
      { made: 1 },
      { made: 1 },
    ]);
    expect(others.map(({ values }) => values.name)).toEqual(['Ottertor', 'Nordkai']);
    expect(alike).toBe(5);
    expect(taken.map(({ name, id }) => [name, id])).toEqual([
      ['Fjordlys AS', 3],
      ['FJORDLYS A/S', 3],
      ['Seegrab', 4],
      ['Fjord Light', 3],
      ['Nordkai AS', undefined],
    ]);
  });

  const accounts = [
    'Company,Website,Town',
    'Fjordlys AS,,Bergen',
    'Seegrab AG,seegrab.example,Kiel',
    'Fjordlys Ltd,other.example,Hull',
  ];

  it('keep the name they have, and another website is another account', () => {
    const asNew = planned('account', accounts);
    expect(asNew.maybe.map(({ values }) => values.name)).toEqual(['Fjordlys AS', 'Seegrab AG']);
    expect(asNew.create.map(({ values }) => values.name)).toEqual(['Fjordlys Ltd']);
    const asSame = planned('account', accounts, { alike: 'same' });
    expect(asSame.update.map(({ known, values }) => [known?.id, values])).toEqual([
      [3, { city: 'Bergen' }],
      [4, { domain: 'seegrab.example', city: 'Kiel' }],
    ]);
    expect(asSame.create.map(({ values }) => values.name)).toEqual(['Fjordlys Ltd']);
  });
});
