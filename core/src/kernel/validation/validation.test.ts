import fc from 'fast-check';
import { builtIn } from '../catalogue';
import { checkQuestion, checkRecord, ManyRecordsCheck, normaliseMail, normalisePhone, normaliseWeb } from '.';

const locale = { country: 'GB' };
const create = (values: object) =>
  checkRecord(
    { object: 'lead', purpose: 'create', setter: 'hand', locale, catalogue: builtIn },
    { name: 'Runa', status: 'untouched', owner: 1, ...values },
  );
const change = (values: object) =>
  checkRecord({ object: 'lead', purpose: 'change', setter: 'hand', locale, catalogue: builtIn }, values);
const messages = ({ faults }: { faults: readonly { message: string }[] }) =>
  faults.map(({ message }) => message);

describe('checking a record', () => {
  it('brings values into their normal form', () => {
    expect(
      create({
        name: '  Runa \n Seagrave ',
        email: ' Runa@Seagrave.Example ',
        phone: '01632 960 001',
        web: 'https://www.seagrave.example/x',
        country: 'sweden',
      }).value,
    ).toMatchObject({
      name: 'Runa Seagrave',
      email: 'runa@seagrave.example',
      phone: '+441632960001',
      web: 'seagrave.example',
      country: 'SE',
      city: null,
    });
  });

  it.each([
    [{ name: '   ' }, 'Name is missing'],
    [{ name: 7 }, 'Name must be text'],
    [{ name: 'x'.repeat(201) }, 'Name is longer than 200 characters'],
    [{ email: 'runa at seagrave' }, 'Email is not an email address'],
    [{ phone: 'call me' }, 'Phone is not a phone number'],
    [{ status: 'hot' }, 'Status is not one of the choices'],
    [{ budget: -1 }, 'Budget must be at least 0'],
    [{ budget: 1.5 }, 'Budget must be whole minor units'],
    [{ budget: 1e300 }, 'Budget is too large'],
    [{ currency: 'ZZZ' }, 'Currency is not a currency code such as GBP'],
    [{ country: 'Atlantis' }, 'Country is not a country'],
    [{ owner: '1' }, 'Owner must be a number'],
    [{ shoeSize: 44 }, 'shoeSize is not a field that can be set here'],
    [{ convertedAt: '2026-01-01T00:00:00Z' }, 'convertedAt is not a field that can be set here'],
    [{ id: 4 }, 'id is not a field that can be set here'],
  ])('refuses %j', (values, message) => {
    expect(messages(create(values))).toEqual([message]);
    expect(create(values).value).toBeUndefined();
  });

  it('refuses impossible dates', () => {
    const deal = checkRecord(
      { object: 'deal', purpose: 'change', setter: 'hand', locale, catalogue: builtIn },
      { closeOn: '2026-02-30' },
    );
    expect(messages(deal)).toEqual(['Close date is not a date (YYYY-MM-DD)']);
  });

  it('refuses what is no object at all', () => {
    for (const values of [null, [], 'x', 4])
      expect(
        checkRecord({ object: 'lead', purpose: 'change', setter: 'hand', locale, catalogue: builtIn }, values)
          .faults,
      ).toHaveLength(1);
  });

  it('looks only at what a change gives, and empties what it empties', () => {
    expect(change({ city: '', role: null }).value).toEqual({ city: null, role: null });
    expect(messages(change({ name: '' }))).toEqual(['Name is missing']);
  });

  it('tells all faults at once', () => {
    expect(create({ name: '', budget: -4 }).faults.map(({ field }) => field)).toEqual(['name', 'budget']);
  });
});

describe('checking very many records', () => {
  it('says the same as checking each, however often a value comes again', () => {
    const how = {
      object: 'lead',
      purpose: 'change',
      setter: 'hand',
      locale: { country: 'GB' },
      catalogue: builtIn,
    } as const;
    const many = new ManyRecordsCheck(how);
    const value = fc.oneof(
      fc.constantFrom(
        '',
        ' ',
        'GB',
        'United Kingdom',
        'website',
        'a@b.example',
        '01632 960123',
        'x'.repeat(300),
      ),
      fc.constantFrom(null, 0, -1, 1.5, 12, true, '2026-02-30', '2026-03-01'),
      fc.string(),
      fc.array(fc.constantFrom('harbour', 'fair', '')),
    );
    const keys = [
      'name',
      'email',
      'phone',
      'country',
      'source',
      'budget',
      'tags',
      'description',
      'owner',
      'nonsense',
    ];
    const record = fc.dictionary(fc.constantFrom(...keys), value);
    fc.assert(
      fc.property(record, (values) => {
        expect(many.of(values)).toEqual(checkRecord(how, values));
        expect(many.of(values)).toEqual(checkRecord(how, values));
      }),
      { numRuns: 400 },
    );
  });
});

describe('normal forms', () => {
  it('hold no signs that nobody sees', () => {
    expect(
      create({ name: 'Ru\u0000na\u0007', description: 'one\u0000\r\ntwo\tthree\u001b' }).value,
    ).toMatchObject({
      name: 'Ru na',
      description: 'one\ntwo\tthree',
    });
  });

  it('stay as they are when normalised again', () => {
    const texts = fc.oneof(fc.emailAddress(), fc.webUrl(), fc.domain(), fc.string());
    fc.assert(
      fc.property(texts, (text) => {
        const mail = normaliseMail(text);
        if (mail !== undefined) expect(normaliseMail(mail)).toBe(mail);
        const web = normaliseWeb(text);
        if (web !== undefined && !web.startsWith('www.')) expect(normaliseWeb(web)).toBe(web);
      }),
    );
  });

  it('are the same for a phone number in any spelling', () => {
    for (const spelling of ['01632 960001', '(01632) 960-001', '+44 1632 960001', '0044 1632 960001']) {
      expect(normalisePhone(spelling, 'GB')).toBe('+441632960001');
    }
    expect(normalisePhone('12', 'GB')).toBeUndefined();
  });
});

describe('checking a question', () => {
  const where = (condition: unknown) =>
    checkQuestion({ version: 1, object: 'deal', where: condition }, builtIn);

  it('takes nested groups', () => {
    expect(
      where({
        join: 'all',
        of: [
          { field: 'owner', is: 'anyOf', value: ['@me'] },
          { join: 'none', of: [{ field: 'closeOn', is: 'in', value: { unit: 'month', offset: 1 } }] },
        ],
      }).faults,
    ).toEqual([]);
  });

  it.each([
    [{ field: 'owner', is: 'contains', value: 'x' }, 'Owner cannot be compared with “contains”'],
    [{ field: 'closeOn', is: 'before', value: 'soon' }, 'Close date needs another kind of value here'],
    [{ field: 'value', is: 'between', value: [1] }, 'Value needs another kind of value here'],
    [{ field: 'name', is: 'isEmpty', value: 'x' }, 'Name needs another kind of value here'],
  ])('refuses %j', (condition, message) => {
    expect(messages(where(condition))).toEqual([message]);
  });

  it('refuses other versions, objects, shapes, and endless nesting', () => {
    let deep: object = { field: 'name', is: 'is', value: 'x' };
    for (let level = 0; level < 12; level += 1) deep = { join: 'all', of: [deep] };
    // Nothing else is said of it, such as what is missing deeper down.
    expect(where(deep).faults.map(({ message }) => message)).toEqual([
      expect.stringContaining('Conditions nest at most'),
    ]);
    for (const question of [
      null,
      {},
      { version: 2, object: 'deal' },
      { version: 1, object: 'spoon' },
      { version: 1, object: 'deal', sql: '1' },
      { version: 1, object: 'deal', where: { join: 'all', of: [] } },
    ]) {
      expect(checkQuestion(question, builtIn).value).toBeUndefined();
    }
  });
});

describe('checking a condition on related records', () => {
  const check = (condition: object) =>
    checkQuestion({ version: 1, object: 'account', where: condition }, builtIn).faults.map(
      ({ field }) => field,
    );
  it('takes one with conditions of its own, or without any', () => {
    expect(check({ related: 'activity.account', is: 'is', value: 0 })).toEqual([]);
    const where = { field: 'doneAt', is: 'in', value: { direction: 'last', count: 60, unit: 'day' } };
    expect(check({ related: 'activity.account', where, is: 'between', value: [1, 3] })).toEqual([]);
    expect(
      check({
        join: 'none',
        of: [{ related: 'deal.account', figure: { as: 'sum', of: 'value' }, is: 'above', value: 5 }],
      }),
    ).toEqual([]);
  });

  it('names what is wrong with it, within it too', () => {
    expect(check({ related: 'activity.account', is: 'contains', value: 0 })).toEqual(['where.is']);
    expect(check({ related: 'activity.account', is: 'between', value: 3 })).toEqual(['where.value']);
    const where = { field: 'kind', is: 'above', value: 3 };
    expect(check({ related: 'activity.account', where, is: 'is', value: 0 })).toEqual(['where.where.is']);
    expect(check({ related: 'deal.account', figure: { as: 'sum', of: 'name' }, is: 'is', value: 0 })).toEqual(
      ['where.figure.of'],
    );
  });
});
