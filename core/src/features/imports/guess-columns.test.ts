import { builtIn } from '../../kernel/catalogue';
import {
  guessColumns,
  guessSetup,
  guessTarget,
  guessType,
  readDelimited,
  stillMeant,
  targetOf,
  fillableFields,
  type ImportSetup,
  type TargetKey,
} from '.';

const guess = (key: TargetKey, text: string, remembered = {}) =>
  guessColumns(builtIn, targetOf(key), readDelimited(text, { headingRow: 1 }), remembered);
const paths = (key: TargetKey, text: string, remembered = {}) =>
  guess(key, text, remembered).map(({ value }) => value);

describe('columns', () => {
  it('match by label, key and synonym in any spelling, each field given out once', () => {
    expect(paths('lead', 'Full Name,COMPANY,e-mail,Phone,Mobile,Shoe size\na,b,c,d,e,f')).toEqual([
      'name',
      'organisation',
      'email',
      'phone',
      null,
      null,
    ]);
  });

  it('prefer a label to a synonym further left', () => {
    expect(paths('lead', 'Contact,Name\na,b')).toEqual([null, 'name']);
  });

  it('of people with their companies are told apart', () => {
    expect(paths('contact', 'Name,Company,Company website,Industry,City,Account town\na,b,c,d,e,f')).toEqual([
      'name',
      'account.name',
      'account.domain',
      'account.industry',
      'city',
      'account.city',
    ]);
  });

  it.each([
    ['deal', 'Deal,Account,Value', ['name', 'account.name', 'value']],
    ['activity', 'Activity,Type,Due', ['name', 'kind', 'dueOn']],
    ['account', 'Account name,Website', ['name', 'domain']],
  ] as const)('headed by what a %s is called hold its names', (key, text, expected) => {
    expect(paths(key, `${text}\na,b,c`)).toEqual(expected);
  });

  it('without a name for it match by what their values look like, less surely, and say why', () => {
    const [, second] = guess('lead', 'Name,Reach them at\nRuna,runa@s.example\nPer,per@s.example');
    expect(second).toMatchObject({ value: 'email', why: '100 % of the values are email addresses' });
    expect(second.sure).toBeLessThan(0.8);
  });

  it('match and stay left out as was decided for files like this', () => {
    const remembered = { fullname: 'organisation', shoesize: null };
    const [first, shoes] = guess('lead', 'Full name,Shoe size\na,b', remembered);
    expect(first).toMatchObject({ value: 'organisation', why: 'decided so for files like this' });
    expect(shoes).toMatchObject({ value: null, why: 'left out in files like this' });
  });

  it('with the same heading twice fill a field once', () => {
    expect(paths('lead', 'Name,Mail,Mail\na,b,c')).toEqual(['name', 'email', null]);
  });
});

describe('a target', () => {
  it('is told from the headings', () => {
    const of = (text: string) => guessTarget(builtIn, readDelimited(text, { headingRow: 1 }), 'lead');
    expect(of('Name,Company,Mail\na,b,c')).toBe('lead');
    expect(of('Name,Stage,Value,Currency,Expected close,Account\na,b,c,d,e,f')).toBe('deal');
    expect(of('Subject,Due date,Type,Priority,Minutes\na,b,c,d,e')).toBe('activity');
  });

  it('offers no field that a file cannot fill', () => {
    const fields = fillableFields(builtIn, targetOf('deal')).map(({ path }) => path);
    expect(fields).toEqual(expect.arrayContaining(['name', 'stage', 'account.name', 'contact.email']));
    expect(fields).not.toEqual(expect.arrayContaining(['weighted']));
    expect(fields).not.toEqual(expect.arrayContaining(['stageSince']));
    const activity = fillableFields(builtIn, targetOf('activity')).map(({ path }) => path);
    expect(activity).toEqual(expect.arrayContaining(['doneAt', 'deal.number', 'contact.email']));
    expect(activity).not.toContain('contact.city');
  });
});

describe('the type of a new field', () => {
  it.each([
    [['12', '44', ''], 'number'],
    [['2.5', '3', '1,250.75'], 'number'],
    [['00412', '00977'], 'text'],
    [['£1,200', '£90'], 'money'],
    [['2026-03-31', '01.04.2026'], 'date'],
    [['02/08/2026', '03/06/2026'], 'date'],
    [['2026-03-31 09:15', '2026-04-01 16:40'], 'dateTime'],
    [['01632 960123', '+44 1632 960124'], 'phone'],
    [['yes', 'no', 'Yes'], 'yesNo'],
    [['a@b.example'], 'email'],
    [['x'.repeat(200)], 'longText'],
    [['Runa', 'Per'], 'text'],
    [Array.from({ length: 20 }, (_, index) => (index % 2 ? 'Steel' : 'Wood')), 'choice'],
    [Array.from({ length: 20 }, (_, index) => (index % 2 ? 'Steel; Wood' : 'Rope')), 'choices'],
    [[], 'text'],
  ])('follows from its values: %j', (values, type) => expect(guessType(values).value).toBe(type));
});

describe('what a text stood for before', () => {
  const people = [
    { id: 1, active: true },
    { id: 2, active: false },
  ];
  const remember = (text: string, ...before: ImportSetup['meanings'][]) => {
    const table = readDelimited(text, { headingRow: 1 });
    return stillMeant(builtIn, 'lead', table, guessSetup(builtIn, 'lead', table), before, people);
  };

  it('is taken for true again where the file says it, the latest word first', () => {
    const before: ImportSetup['meanings'][] = [
      { source: { fair: 'fair', pigeon: null } },
      { source: { fair: 'website' }, timeFrame: { soon: 'now' } },
    ];
    expect(remember('Name,Source\nRuna,Fair\nPer,Website', ...before)).toEqual({ source: { fair: 'fair' } });
    expect(remember('Name,Source\nRuna,PIGEON', ...before)).toEqual({ source: { pigeon: null } });
  });

  it('is forgotten once the choice or the person is gone', () => {
    expect(remember('Name,Source\nRuna,Fair', { source: { fair: 'gone' } })).toEqual({});
    expect(remember('Name,Owner\nRuna,TR', { owner: { tr: 2 } })).toEqual({});
    expect(remember('Name,Owner\nRuna,TR', { owner: { tr: 1 } })).toEqual({ owner: { tr: 1 } });
  });
});
