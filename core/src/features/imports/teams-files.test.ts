import {
  decodeText,
  guessEncoding,
  guessSetup,
  keyText,
  planImport,
  readDelimited,
  readRows,
  setupFrom,
  type Encoding,
  type ImportPlan,
  type ImportSetup,
  type ImportSurroundings,
  type KnownRecord,
  type OnFile,
  type Table,
  type TargetKey,
} from '.';
import { builtIn, type AnyRecord } from '../../kernel/catalogue';

const around: ImportSurroundings = {
  catalogue: builtIn,
  locale: { country: 'GB' },
  currency: 'GBP',
  currencies: ['GBP', 'EUR', 'SEK'],
  named: { person: [{ id: 1, name: 'Tamsin Rudd', email: 'tamsin@brackwater.example' }] },
  owners: undefined,
  defaults: {
    lead: { owner: 1, status: 'untouched' },
    contact: { owner: 1, relationship: 'prospect' },
    account: { owner: 1, relationship: 'prospect' },
    deal: { owner: 1, pipeline: 1, stage: 1 },
    activity: { owner: 1, kind: 'task' },
  },
  today: '2026-11-19',
  timeZone: 'Europe/London',
};

type Known = Partial<Record<TargetKey, (Partial<AnyRecord> & { accountName?: string })[]>>;

const fileOf = (known: Known): OnFile => ({
  find: (object, key, text) =>
    (known[object] ?? [])
      .filter((record) => keyText(key, record as never) === text)
      .map(({ accountName, ...record }): KnownRecord => ({ record: record as AnyRecord, accountName })),
});

/** What is made of a file without anybody having said anything about it. */
function taken(
  target: TargetKey,
  file: string | Table,
  { known = {}, change = {} }: { known?: Known; change?: Partial<ImportSetup> } = {},
): ImportPlan & { table: Table; setup: ImportSetup } {
  const table = typeof file === 'string' ? readDelimited(file) : file;
  const setup = { ...setupFrom(guessSetup(builtIn, target, table), target, 1), ...change };
  return { ...planImport(readRows(table, setup, around), setup, fileOf(known), around), table, setup };
}

const lines = (...rows: string[]) => `${rows.join('\n')}\n`;

describe('a row that means two records on file at once', () => {
  const runa = {
    id: 7,
    name: 'Runa Seagrave',
    email: 'runa@x.example',
    externalId: 'A1',
    accountName: 'Trust',
  };
  const per = {
    id: 8,
    name: 'Per Ottergate',
    email: 'per@x.example',
    externalId: 'A2',
    accountName: 'Trust',
  };
  const people = { contact: [runa, per] };
  const group = {
    account: [
      { id: 3, name: 'Tolmouth Group', domain: 'tolmouth.example' },
      { id: 4, name: 'Tolmouth Water', domain: null },
    ],
  };

  it.each<[string, TargetKey, Known, string[], string]>([
    [
      'emails swapped between two people',
      'contact',
      people,
      ['Name,Email', 'Runa Seagrave,per@x.example', 'Per Ottergate,runa@x.example'],
      'Its email is that of “Per Ottergate”, its name that of “Runa Seagrave”. Which of the two is meant?',
    ],
    [
      'external ids swapped',
      'contact',
      people,
      ['External id,Email', 'A2,runa@x.example', 'A1,per@x.example'],
      'Its external id is that of “Per Ottergate”, its email that of “Runa Seagrave”',
    ],
    [
      'the website of one and the name of another',
      'account',
      group,
      ['Name,Website', 'Tolmouth Water,tolmouth.example'],
      'Its website is that of “Tolmouth Group”, its name that of “Tolmouth Water”',
    ],
    [
      'the same of the contact beside a deal',
      'deal',
      people,
      [
        'Deal name,Value,Close date,Contact,Contact email,Account',
        'Pump hall,1000,2026-12-01,Runa Seagrave,per@x.example,Trust',
      ],
      'Contact: Its email is that of “Per Ottergate”',
    ],
  ])('is refused and both are named: %s', (_, target, known, rows, why) => {
    const { create, maybe, update, others, refused } = taken(target, lines(...rows), { known });
    expect([create, maybe, update, others.filter(({ does }) => does === 'update')]).toEqual([[], [], [], []]);
    expect(refused).toHaveLength(rows.length - 1);
    expect(refused[0].reason).toContain(why);
  });

  it('is none where another is only called alike, or where Zawn’s own id says who it is', () => {
    const renamed = taken('contact', 'Name,Email\nRuna Holm,runa@x.example\n', { known: people });
    expect(renamed.update).toEqual([
      expect.objectContaining({ values: { name: 'Runa Holm', firstName: 'Runa', lastName: 'Holm' } }),
    ]);
    const own = taken('contact', lines('Zawn id,Name,Email', '7,Runa Seagrave,per@x.example'), {
      known: people,
    });
    expect(own.update).toEqual([expect.objectContaining({ values: { email: 'per@x.example' } })]);
    const both = { contact: [runa, { ...runa, id: 9, email: 'other@x.example', externalId: null }] };
    const same = taken('contact', 'Name,Email,Role\nRuna Seagrave,runa@x.example,Pilot\n', { known: both });
    expect(same.update[0].known?.id).toBe(7);
  });
});

describe('another email is another person', () => {
  const runa = { id: 7, name: 'Runa Seagrave', email: 'runa@seagrave.example', phone: '+441632960001' };
  const known = { contact: [{ ...runa, accountName: 'Seagrave' }], lead: [{ ...runa, organisation: null }] };

  it.each([
    ['email', 'Name,Email\nRuna Seagrave,r.seagrave@other.example\n', 'email runa@seagrave.example on file'],
    ['phone', 'Name,Phone\nRuna Seagrave,01632 960999\n', 'phone +441632960001 on file'],
    [
      'email, at the same account',
      'Name,Email,Company\nRuna Seagrave,r@other.example,Seagrave\n',
      'email runa@seagrave.example on file',
    ],
  ])('the same name with another %s is created, and shown beside who is on file', (_, text, why) => {
    for (const target of ['contact', 'lead'] as const) {
      if (target === 'lead' && text.includes('Company')) continue;
      const { create, maybe, update } = taken(target, text, { known });
      expect([create.length, update.length]).toEqual([0, 0]);
      expect(maybe).toEqual([
        expect.objectContaining({ does: 'create', maybe: expect.objectContaining({ id: 7 }) as object }),
      ]);
      expect(maybe[0].why).toContain(why);
    }
  });

  it('is left alone where that is chosen, and never written over', () => {
    const text = 'Name,Email\nRuna Seagrave,r.seagrave@other.example\n';
    const { skipped, maybe, create, update } = taken('contact', text, {
      known,
      change: { onMaybe: 'skip' },
    });
    expect([maybe.length, create.length, update.length]).toEqual([0, 0, 0]);
    expect(skipped).toEqual([expect.objectContaining({ id: 7 })]);
  });

  it('of two with one name the one that nothing speaks against is meant', () => {
    const two = { contact: [{ ...runa }, { ...runa, id: 8, email: 'other@seagrave.example' }] };
    const text = 'Name,Email,Role\nRuna Seagrave,,Harbour master\n';
    expect(taken('contact', text, { known: two }).update[0].known?.id).toBe(7);
    const other = 'Name,Email,Phone,Role\nRuna Seagrave,other@seagrave.example,,Harbour master\n';
    expect(taken('contact', other, { known: two }).update[0].known?.id).toBe(8);
  });

  it('a name alone, or one with a key that only one side has, is the same person', () => {
    const [contact] = known.contact;
    const unknown = { contact: [{ ...contact, email: null, phone: null }] };
    for (const text of ['Name,Role\nRuna Seagrave,Pilot\n', 'Name,Email\nRuna Seagrave,r@x.example\n'])
      expect(taken('contact', text, { known: unknown }).update).toHaveLength(1);
  });

  it('two contacts of one name beside deals are two where their emails differ', () => {
    const { others } = taken(
      'deal',
      lines(
        'Deal,Value,Close,Account,Contact,Contact email',
        'A,1,2026-12-31,Trust,Runa,r1@x.example',
        'B,1,2026-12-31,Trust,Runa,r2@x.example',
        'C,1,2026-12-31,Trust,Runa,r1@x.example',
      ),
    );
    const emails = others.filter(({ object }) => object === 'contact').map(({ values }) => values.email);
    expect(emails).toEqual(['r1@x.example', 'r2@x.example']);
  });

  it('an account of the same name with another website is another beside a contact too', () => {
    const account = { id: 3, name: 'Harbour Trust', domain: 'harbour.example' };
    const { others } = taken('contact', 'Name,Company,Website\nRuna,Harbour Trust,othertrust.example\n', {
      known: { account: [account] },
    });
    expect(others).toEqual([
      expect.objectContaining({
        object: 'account',
        does: 'create',
        maybe: expect.objectContaining({ id: 3 }) as object,
      }),
    ]);
  });
});

describe('quotes that do not pair up', () => {
  const rows = Array.from({ length: 40 }, (_, at) => `Person ${at},p${at}@x.example,Town`);

  it('cost the row they stand in, not the forty after it', () => {
    const text = lines(
      'Name,Email,Town',
      '"Harbour, h@x.example,Town',
      ...rows,
      'Last",l@x.example,Town',
      'End,e@x.example,Town',
    );
    const { create, refused, table } = taken('lead', text);
    expect(create).toHaveLength(41);
    expect(refused.map(({ row }) => row)).toEqual([2, 43]);
    expect(refused[0].reason).toContain('line 2');
    expect(table.notes).toEqual(['Lines 2, 43 cannot be read and will be refused.']);
  });

  it('under a title, and however many rows have one', () => {
    const odd = rows.map((row, at) => (at % 6 === 5 ? `"${row}` : row));
    const { create, refused } = taken('lead', lines('Our list, 2026', '', 'Name,Email,Town', ...odd));
    expect([create.length, refused.length]).toEqual([34, 6]);
  });

  it('also where the quote is never closed, or text follows a closing one', () => {
    const open = taken('lead', lines('Name,Email,Town', 'A,"a@x.example,T', ...rows));
    expect([open.create.length, open.refused.length]).toEqual([40, 1]);
    const behind = taken('lead', lines('Name,Email,Town', '"Har" bour,h@x.example,T', ...rows));
    expect([behind.create.length, behind.refused.length]).toEqual([40, 1]);
  });

  it('are text within a cell that does not begin with one', () => {
    const { create } = taken('lead', 'Name,Interest\nRuna,5" pipe\nPer,a 19" rack\n');
    expect(create.map(({ values }) => values.interest)).toEqual(['5" pipe', 'a 19" rack']);
  });

  it('leave cells of several lines whole, commas and doubled quotes among them', () => {
    const { create, refused } = taken(
      'lead',
      'Name,Notes\nRuna,"one, two\nthree ""four""\n\nfive, six"\nPer,x\n',
    );
    expect(refused).toEqual([]);
    expect(create.map(({ values }) => values.description)).toEqual([
      'one, two\nthree "four"\n\nfive, six',
      'x',
    ]);
  });
});

describe('currencies', () => {
  const deal = (value: string, extra = '', head = '') =>
    taken('deal', `Deal,Value,Close${head}\nBuoys,"${value}",2026-12-31${extra}\n`);
  it.each([
    ['USD 1200', 120_000, 'USD'],
    ['1200 USD', 120_000, 'USD'],
    ['€ 12,00', 1200, 'EUR'],
    ['1 234,50 €', 123_450, 'EUR'],
    ['£1,200.50', 120_050, 'GBP'],
    ['500 kr', 50_000, 'SEK'],
    ['CHF 1’234.50', 123_450, 'CHF'],
    ['¥ 1200 JPY', 1200, 'JPY'],
    ['1.2k', 120_000, 'GBP'],
    ['€1.5k', 150_000, 'EUR'],
    ['1200', 120_000, 'GBP'],
    ['500,-', 50_000, 'GBP'],
  ])('%s is read with its money', (text, value, currency) => {
    const { create, refused, notes } = deal(text);
    expect([refused, notes]).toEqual([[], []]);
    expect(create[0].values).toMatchObject({ value, currency });
  });

  it.each([
    ['$ 1,200', 'may be in USD, CAD, AUD'],
    ['3m', 'is not a number'],
    ['about 1200', 'is not a number'],
    ['£ 5 EUR', 'is not a number'],
  ])('%s is not guessed at', (text, why) => {
    const { refused, notes } = deal(text);
    expect([...refused, ...notes].map(({ reason }) => reason).join()).toContain(why);
  });

  it.each(['-', 'n/a', '–', 'unknown', ''])('“%s” is no amount', (text) => {
    const { create } = taken('lead', `Name,Budget\nRuna,${text}\n`);
    expect(create[0].values.budget).toBeNull();
  });

  it('a column of the row says which dollar or crown is meant, and contradicts nothing', () => {
    expect(deal('$ 5', ',CAD', ',Currency').create[0].values).toMatchObject({ value: 500, currency: 'CAD' });
    const { refused, notes } = deal('€ 5', ',USD', ',Currency');
    expect([...refused, ...notes][0].reason).toContain('is not in USD');
  });

  it('a column that names no money that could be told leaves no amount in another', () => {
    const kr = taken('lead', 'Name,Budget,Currency\nA,5,kr\nB,5,€\nC,5,Kronen\nD,5,-\nE,-,Kronen\n');
    expect(kr.create.map(({ values }) => [values.budget, values.currency])).toEqual([
      [500, 'SEK'],
      [500, 'EUR'],
      [null, null],
      [500, 'GBP'],
      [null, null],
    ]);
    expect(kr.notes.map(({ row }) => row)).toEqual([4, 4, 6]);
    const deal = taken('deal', 'Deal,Value,Close,Currency\nBuoys,5,2026-12-31,Kronen\n');
    expect([deal.create.length, deal.refused.length > 0]).toEqual([0, true]);
  });

  it('an amount that says none stays in the money of the deal it changes', () => {
    const known = { deal: [{ id: 4, name: 'Buoys', value: 100, currency: 'EUR', outcome: 'open' }] };
    const { update } = taken('deal', 'Deal,Value\nBuoys,12\n', { known });
    expect(update[0].values).toEqual({ value: 1200 });
    const said = taken('deal', 'Deal,Value\nBuoys,£12\n', { known });
    expect(said.update[0].values).toEqual({ value: 1200, currency: 'GBP' });
    const yen = { deal: [{ id: 4, name: 'Buoys', value: 100, currency: 'JPY', outcome: 'open' }] };
    expect(taken('deal', 'Deal,Value\nBuoys,12\n', { known: yen }).update[0].values).toEqual({ value: 12 });
  });

  it('amounts that owe are negative, in brackets and with their minus behind', () => {
    for (const text of ['(500.00)', '500-', '−500', '-£500'])
      expect(JSON.stringify(deal(text))).toMatch(/Value must be|"value":-50000/);
  });
});

const texts = {
  german: lines('Name;Ort', 'Jürgen Weiß;Köln', 'Müller & Söhne;Düsseldorf', 'Gröger;Fürth'),
  french: lines('Nom,Ville', 'Hélène Lefèvre,Besançon', 'François Noël,Orléans'),
  swedish: lines('Namn;Stad', 'Åsa Öström;Göteborg', 'Pär Ängquist;Malmö'),
  polish: lines('Imię;Miasto', 'Łukasz Żółć;Łódź', 'Małgorzata Wiśniewska;Kraków', 'Sławomir Świątek;Gdańsk'),
  czech: lines('Jméno;Město', 'Řehoř Dvořák;Plzeň', 'Žaneta Šťastná;Děčín'),
  russian: lines('Имя;Город', 'Наталья Соколова;Москва', 'Сергей Юрьев;Казань'),
  greek: lines('Όνομα;Πόλη', 'Γιώργος Παπαδόπουλος;Αθήνα'),
};

/** A text in an encoding of one byte a letter. */
function inBytes(text: string, encoding: Encoding): Uint8Array {
  const letters = new Map<string, number>();
  for (let byte = 0; byte < 256; byte += 1) letters.set(decodeText(Uint8Array.of(byte), encoding), byte);
  return Uint8Array.from(text, (letter) => {
    const byte = letters.get(letter);
    if (byte === undefined) throw new Error(`${letter} is not in ${encoding}`);
    return byte;
  });
}

describe('encodings', () => {
  it.each([
    ['german', 'windows-1252'],
    ['german', 'macintosh'],
    ['french', 'windows-1252'],
    ['french', 'macintosh'],
    ['swedish', 'windows-1252'],
    ['swedish', 'macintosh'],
    ['polish', 'windows-1250'],
    ['polish', 'iso-8859-2'],
    ['czech', 'windows-1250'],
    ['czech', 'iso-8859-2'],
    ['russian', 'windows-1251'],
    ['russian', 'koi8-r'],
    ['greek', 'windows-1253'],
  ] as const)('%s in %s is read as it was written', (language, encoding) => {
    const bytes = inBytes(texts[language], encoding);
    expect(decodeText(bytes, guessEncoding(bytes).value)).toBe(texts[language]);
  });

  it.each([
    [
      'Shift-JIS',
      [
        0x96, 0xbc, 0x91, 0x4f, 0x2c, 0x89, 0xef, 0x8e, 0xd0, 0x0a, 0x93, 0x63, 0x92, 0x86, 0x91, 0xbe, 0x98,
        0x59, 0x2c, 0x93, 0x8c, 0x8b, 0x9e, 0x8f, 0xa4, 0x8e, 0x96, 0x0a, 0x97, 0xe9, 0x96, 0xd8, 0x89, 0xd4,
        0x8e, 0x71, 0x2c, 0x91, 0xe5, 0x8d, 0xe3, 0x90, 0xbb, 0x8d, 0xec, 0x8f, 0x8a, 0x0a,
      ],
      '名前,会社\n田中太郎,東京商事\n鈴木花子,大阪製作所\n',
    ],
  ])('%s is read as it was written', (_, bytes, text) => {
    const file = Uint8Array.from(bytes);
    expect(decodeText(file, guessEncoding(file).value)).toBe(text);
  });

  it('a Windows-1252 file keeps its euro signs, dashes and curly quotes', () => {
    const bytes = Uint8Array.of(0x80, 0x20, 0x93, 0x41, 0x94, 0x20, 0x96, 0x20, 0x92, 0x85);
    expect(decodeText(bytes, 'windows-1252')).toBe('€ “A” – ’…');
  });

  it.each(['windows-1252', 'macintosh'] as const)(
    'a file in %s with signs and no letters beyond plain ones is read as it was written, or asked about',
    (encoding) => {
      for (const text of [
        'Pier – £ 500\n',
        'Crane “North”\n',
        'Price;€ 12,00\n',
        'Ada’s quay\n',
        'Budget £1,200\n',
      ]) {
        const bytes = inBytes(text.repeat(3), encoding);
        const { value, sure } = guessEncoding(bytes);
        expect(sure <= 0.6 || decodeText(bytes, value) === text.repeat(3)).toBe(true);
      }
    },
  );

  it('one stray byte leaves the rest of a UTF-8 file as it is, and its line is named', () => {
    const good = new TextEncoder().encode(texts.german.repeat(5));
    const bytes = Uint8Array.of(...good, ...inBytes('Jürgen;Köln\n', 'windows-1252'));
    const { value, sure, others } = guessEncoding(bytes);
    expect(value).toBe('utf-8');
    expect(sure).toBeLessThan(0.8);
    expect(others).toHaveLength(1);
    const table = readDelimited(bytes);
    const [fault] = table.rows.filter((row) => row.fault);
    expect(table.rows.filter((row) => row.fault)).toHaveLength(1);
    expect(fault.fault).toContain('Line 21 holds signs that cannot be read');
    expect(table.rows[0].cells).toEqual(['Jürgen Weiß', 'Köln']);
  });

  it('a doubtful one shows what the next best would change', () => {
    const { others = [] } = guessEncoding(inBytes(texts.french, 'windows-1252'));
    expect(others.length).toBeGreaterThan(0);
    for (const { glimpse } of others) for (const [now, then] of glimpse) expect(now).not.toBe(then);
  });
});

describe('names in several columns', () => {
  it.each([
    ['First name,Last name', 'Runa,Seagrave', 'Runa Seagrave'],
    ['Last name,First name', 'Seagrave,Runa', 'Runa Seagrave'],
    ['Vorname;Nachname', 'Runa;Seagrave', 'Runa Seagrave'],
    ['Nom;Prénom', 'Seagrave;Runa', 'Runa Seagrave'],
    ['Nombre,Apellidos', 'Runa,Seagrave Ulla', 'Runa Seagrave Ulla'],
    ['Nome;Cognome', 'Runa;Seagrave', 'Runa Seagrave'],
    ['Voornaam;Tussenvoegsel;Achternaam', 'Runa;van der;Meer', 'Runa van der Meer'],
    ['Förnamn;Efternamn', 'Runa;Seagrave', 'Runa Seagrave'],
    ['Fornavn;Etternavn', 'Runa;Seagrave', 'Runa Seagrave'],
    ['Imię;Nazwisko', 'Runa;Seagrave', 'Runa Seagrave'],
    ['Title,First,Middle,Last,Suffix', 'Dr,Runa,K.,Seagrave,MBE', 'Dr Runa K. Seagrave MBE'],
    ['Name', '"Seagrave, Runa"', 'Runa Seagrave'],
  ])('%s', (head, row, name) => {
    const { create, refused } = taken('contact', lines(head, row));
    expect(refused).toEqual([]);
    expect(create.map(({ values }) => values.name)).toEqual([name]);
  });

  it.each([
    ['First name,Last name', 'Lucía,García Márquez', 'Lucía', 'García Márquez', 'Lucía García Márquez'],
    [
      'Title,First,Middle,Last,Suffix',
      'Dr,Runa,K.,Seagrave,MBE',
      'Runa K.',
      'Seagrave',
      'Dr Runa K. Seagrave MBE',
    ],
    [
      'Voornaam;Tussenvoegsel;Achternaam',
      'Anneke;van der;Meer',
      'Anneke',
      'van der Meer',
      'Anneke van der Meer',
    ],
    ['Name', '"García Márquez, Lucía"', 'Lucía', 'García Márquez', 'Lucía García Márquez'],
    ['Name', 'Dr. Runa Seagrave', 'Runa', 'Seagrave', 'Dr. Runa Seagrave'],
    ['Nachname;E-Mail', 'Seagrave;runa@x.example', null, 'Seagrave', 'Seagrave'],
    ['Vorname;E-Mail', 'Runa;runa@x.example', 'Runa', null, 'Runa'],
    [
      'Name,First name,Last name',
      'Dr. Lucía García Márquez,Lucía,García Márquez',
      'Lucía',
      'García Márquez',
      'Dr. Lucía García Márquez',
    ],
  ])('first and last name are told apart: %s', (head, row, firstName, lastName, name) => {
    const { create, refused } = taken('contact', lines(head, row));
    expect(refused).toEqual([]);
    expect(create.map(({ values }) => values)).toEqual([
      expect.objectContaining({ name, firstName, lastName }),
    ]);
  });

  it('a last name that changed changes the name, with the title it had', () => {
    const known = {
      contact: [
        {
          id: 7,
          name: 'Dr. Runa Seagrave',
          firstName: 'Runa',
          lastName: 'Seagrave',
          email: 'runa@x.example',
        },
      ],
    };
    const { update, refused } = taken('contact', 'Email,Last name\nruna@x.example,Holm\n', { known });
    expect(refused).toEqual([]);
    expect(update.map(({ values }) => values)).toEqual([{ lastName: 'Holm', name: 'Dr. Runa Holm' }]);
  });

  it('a title that is a role stays one', () => {
    const { create } = taken('contact', 'First name,Last name,Title\nRuna,Seagrave,Harbour master\n');
    expect(create[0].values).toMatchObject({ name: 'Runa Seagrave', role: 'Harbour master' });
  });
});

describe('headings in other languages', () => {
  it.each([
    ['German', 'Ansprechpartner;Firma;E-Mail-Adresse;Telefon;PLZ;Ort;Land'],
    ['French', 'Nom complet;Société;Courriel;Téléphone;Code postal;Ville;Pays'],
    ['Spanish', 'Nombre completo;Empresa;Correo electrónico;Teléfono;Código postal;Ciudad;País'],
    ['Italian', 'Nome completo;Azienda;Posta elettronica;Telefono;CAP;Città;Paese'],
    ['Dutch', 'Volledige naam;Bedrijf;E-mailadres;Telefoonnummer;Postcode;Plaats;Land'],
    ['Swedish', 'Namn;Företag;E-post;Telefon;Postnummer;Ort;Land'],
    ['Norwegian', 'Navn;Bedrift;E-post;Tlf;Postnummer;Sted;Land'],
    ['Danish', 'Navn;Virksomhed;E-mail;Telefonnummer;Postnr;By;Land'],
    ['Polish', 'Imię i nazwisko;Firma;Adres e-mail;Numer telefonu;Kod pocztowy;Miasto;Kraj'],
    ['Portuguese', 'Nome completo;Empresa;Endereço de e-mail;Telefone;Código postal;Cidade;País'],
  ])('%s are understood', (_, head) => {
    const { create, refused, notes } = taken(
      'contact',
      lines(
        head,
        'Runa Seagrave;Seagrave Harbour;runa@seagrave.example;+44 1632 960001;1234;Seagrave;Deutschland',
      ),
    );
    expect([refused, notes]).toEqual([[], []]);
    const [{ values }] = create;
    expect(values).toMatchObject({
      name: 'Runa Seagrave',
      email: 'runa@seagrave.example',
      phone: '+441632960001',
    });
  });

  it('countries are understood by their usual names', () => {
    const names = [
      'The Netherlands',
      'U.S.A.',
      'Deutschland',
      'Sverige',
      'Royaume-Uni',
      'Polska',
      'España',
      'Brasil',
    ];
    const { create } = taken('lead', lines('Name,Country', ...names.map((name, at) => `P${at},${name}`)));
    expect(create.map(({ values }) => values.country)).toEqual([
      'NL',
      'US',
      'DE',
      'SE',
      'GB',
      'PL',
      'ES',
      'BR',
    ]);
  });

  it('states of one country are no countries', () => {
    const { create } = taken('lead', 'Name,State\nA,CA\nB,TX\nC,NY\n');
    expect(create.map(({ values }) => values.country)).toEqual([null, null, null]);
  });
});

describe('what stands around a table', () => {
  it('is set aside, and said so', () => {
    const { create, refused, table } = taken(
      'lead',
      lines(
        'Our leads in May',
        '',
        'Name,Budget,Town',
        'Runa,12,Seagrave',
        'Per,13,Tolmouth',
        '',
        'Total,25,',
        'Source: the fair, hall 3',
      ),
    );
    expect(refused).toEqual([]);
    expect(create.map(({ values }) => values.name)).toEqual(['Runa', 'Per']);
    expect(table.notes).toEqual([
      'Row 1 above the headings was set aside: “Our leads in May”.',
      'Rows 7, 8 below the table were set aside as sums or remarks: “Total 25”.',
    ]);
  });

  it.each(['Total Energies', 'Summer Harbour', 'Sumburgh Pilots'])('%s is a company', (name) => {
    const { create } = taken('account', lines('Account,Town', 'Seagrave,Seagrave', `${name},Tolmouth`));
    expect(create).toHaveLength(2);
  });
});

describe('a cell', () => {
  it('that nobody sees all of, is read as it looks', () => {
    const { create } = taken(
      'lead',
      'Name,Email,Phone\n\u200bRuna\u00a0 Seagrave,ru\u200bna@seagrave.example\ufeff,01632\u200e 960001\n',
    );
    expect(create[0].values).toMatchObject({
      name: 'Runa Seagrave',
      email: 'runa@seagrave.example',
      phone: '+441632960001',
    });
  });

  it('in which a formula failed is no name, and costs nothing where it is optional', () => {
    const { create, refused, notes } = taken('lead', 'Name,Town,Phone\n#REF!,A,\nRuna,#NAME?,#N/A\n');
    expect(refused.map(({ row }) => row)).toEqual([2]);
    expect(create[0].values).toMatchObject({ name: 'Runa', city: null, phone: null });
    expect(notes).toHaveLength(1);
  });

  it('with a phone number is read in the country of its row', () => {
    const { create } = taken('contact', 'Name,Phone,Country\nA,030 901820,Deutschland\nB,01632 960001,\n');
    expect(create.map(({ values }) => values.phone)).toEqual(['+4930901820', '+441632960001']);
  });

  it('in another notation is the same day', () => {
    const days = [
      '03-Mar-25',
      '3rd March 2025',
      '20250303',
      '45719',
      '3. März 2025',
      '3 de marzo de 2025',
      '3 mars 2025',
      'Monday, March 3, 2025',
    ];
    const { create } = taken(
      'deal',
      lines('Deal,Value,Close', ...days.map((day, at) => `D${at},1,"${day}"`)),
    );
    expect(create.map(({ values }) => values.closeOn)).toEqual(days.map(() => '2025-03-03'));
  });

  it('of addresses alone names people by theirs', () => {
    for (const head of ['', 'Email\n'])
      expect(
        taken('contact', `${head}runa.seagrave@x.example\nper@y.example\n`).create.map(
          ({ values }) => values.name,
        ),
      ).toEqual(['Runa Seagrave', 'Per']);
    // Where there is a column of names, an empty one is missing.
    expect(taken('contact', 'Name,Email\n,a@x.example\nB,b@x.example\n').refused).toHaveLength(1);
  });

  it('with two addresses or numbers takes the first, and says what it left out', () => {
    const { create, notes } = taken(
      'lead',
      'Name,Email,Phone\nRuna,"runa@x.example; r@y.example",01632 960001 / 07700 900123\n',
    );
    expect(create[0].values).toMatchObject({ email: 'runa@x.example', phone: '+441632960001' });
    expect(notes.map(({ reason }) => reason)).toEqual([
      'Email: r@y.example left out, as there is room for one',
      'Phone: 07700 900123 left out, as there is room for one',
    ]);
  });

  it('keeps the extension of a phone number', () => {
    const numbers = [
      '01632 960001 ext. 12',
      '01632 960001 x12',
      '+44 1632 960001 Durchwahl 12',
      '01632 960001 poste 12',
    ];
    const { create } = taken('lead', lines('Name,Phone', ...numbers.map((number, at) => `P${at},${number}`)));
    expect(create.map(({ values }) => values.phone)).toEqual(numbers.map(() => '+441632960001;ext=12'));
  });
});
