import {
  ask,
  convert,
  rateOn,
  type AnyRecord,
  type ProblemBody,
  type Rate,
  type RatesRead,
  type EntriesWritten,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const settings = async () => {
  const { body } = await operations.call('get', '/organisation/1').expect(200);
  return (body as { record: AnyRecord }).record;
};
const change = async (values: object) =>
  operations.against((await settings()).version, 'patch', '/organisation/1', values);
const detailOf = ({ body }: { body: unknown }) => (body as ProblemBody).detail;
const ratesOf = async (currency: string) => {
  const { rows } = await operations.records(
    ask('rate', { field: 'currency', is: 'anyOf', value: [currency] }),
  );
  return rows.map((row) => [row.validFrom, row.rate] as [string, number]).sort();
};

describe('the settings of the organisation', () => {
  it('are changed through the door: logged, and undone', async () => {
    const before = await settings();
    const { body } = await change({ name: 'Brackwater & Sons', fiscalYearStart: 1, timeZone: 'Europe/Oslo' });
    const { unit } = body as Written<AnyRecord>;
    expect(await settings()).toMatchObject({
      name: 'Brackwater & Sons',
      fiscalYearStart: 1,
      version: before.version + 1,
    });
    const { body: session } = await rep.call('get', '/session').expect(200);
    expect(session).toMatchObject({ organisation: { name: 'Brackwater & Sons', timeZone: 'Europe/Oslo' } });
    await operations.call('post', `/units/${unit}/undo`).expect(200);
    expect(await settings()).toMatchObject({ name: before.name, fiscalYearStart: before.fiscalYearStart });
  });

  it.each([
    [{ timeZone: 'Europe/Atlantis' }, /Time zone/],
    [{ currency: 'XXQ' }, /[Cc]urrency/],
    [{ currency: 'USD' }, /no rate of USD yet/],
    [{ fiscalYearStart: 13 }, /fiscal year/],
    [{ weekStart: -1 }, /week/],
    [{ name: '' }, /Name/],
  ])('refuse %j', async (values, message) => {
    const answer = await change(values);
    expect([answer.status, detailOf(answer)]).toEqual([422, expect.stringMatching(message)]);
  });

  it('are one, and not to be deleted; a rep reads them and changes nothing', async () => {
    const { version } = await settings();
    expect((await operations.against(version, 'delete', '/organisation/1')).status).toBe(409);
    await rep.call('get', '/organisation/1').expect(200);
    expect((await rep.against(version, 'patch', '/organisation/1', { name: 'Mine' })).status).toBe(403);
    expect((await change({ name: 'Stale' })).status).toBe(200);
    expect((await operations.against(version, 'patch', '/organisation/1', { name: 'Late' })).status).toBe(
      409,
    );
    expect((await change({ name: 'Brackwater Instruments' })).status).toBe(200);
  });
});

describe('rates', () => {
  const enter = (rates: Rate[]) => operations.call('post', '/rates/entries', { rates });

  it('are entered many at once as one change: new ones, others in place of those there, and back', async () => {
    const before = await ratesOf('EUR');
    const [from, known] = before[before.length - 1];
    const { body } = await enter([
      { currency: 'USD', validFrom: '2026-11-01', rate: 0.79 },
      { currency: 'EUR', validFrom: from, rate: 0.9 },
      { currency: 'SEK', ...(await lastOf('SEK')) },
    ]).expect(200);
    const { unit, value } = body as Written<EntriesWritten>;
    expect(value).toEqual({ created: 1, changed: 1, same: 1 });
    expect((await ratesOf('EUR')).at(-1)).toEqual([from, 0.9]);
    await operations.call('post', `/units/${unit}/undo`).expect(200);
    expect((await ratesOf('EUR')).at(-1)).toEqual([from, known]);
    expect(await ratesOf('USD')).toEqual([]);
  });
  const lastOf = async (currency: string) => {
    const [validFrom, rate] = (await ratesOf(currency)).at(-1) as [string, number];
    return { validFrom, rate };
  };

  it('of currencies without decimals are those of whole units', async () => {
    const { body } = await enter([{ currency: 'JPY', validFrom: '2026-11-01', rate: 0.0053 }]).expect(200);
    // A yen has no hundredth: 0.0053 pounds are 0.53 pence.
    expect(await ratesOf('JPY')).toEqual([['2026-11-01', 0.53]]);
    await operations.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
  });

  it.each([
    [[{ currency: 'EUR', validFrom: '2026-11-01', rate: 0 }], /Rate/],
    [[{ currency: 'GBP', validFrom: '2026-11-01', rate: 1 }], /needs no rate/],
    [[{ currency: 'EUR', validFrom: '2026-02-30', rate: 1 }], /not a date/],
    [
      [
        { currency: 'USD', validFrom: '2026-11-01', rate: 1 },
        { currency: 'USD', validFrom: '2026-11-01', rate: 2 },
      ],
      /two rates of USD 2026-11-01/,
    ],
  ])('refuse %j, and write nothing', async (rates, message) => {
    const before = await ratesOf('EUR');
    const answer = await enter(rates);
    expect([answer.status, detailOf(answer)]).toEqual([422, expect.stringMatching(message)]);
    expect(await ratesOf('EUR')).toEqual(before);
  });

  it('are read from what is pasted, and only by those who set things up', async () => {
    const { body } = await operations
      .call('post', '/rates/read', { text: 'EUR;01.12.2026;0,87\nGBP;01.12.2026;1' })
      .expect(200);
    expect(body as RatesRead).toEqual({
      rates: [{ currency: 'EUR', validFrom: '2026-12-01', rate: 0.87 }],
      faults: [{ line: 2, message: expect.stringMatching(/needs no rate/) as string }],
    });
    await rep.call('post', '/rates/read', { text: '' }).expect(403);
    await rep.call('post', '/rates/entries', { rates: [] }).expect(403);
    await rep.call('post', '/rates', { currency: 'USD', validFrom: '2026-11-01', rate: 1 }).expect(403);
  });
});

describe('another reporting currency', () => {
  const sums = async () =>
    operations.figures({
      ...ask('deal', { field: 'outcome', is: 'anyOf', value: ['won'] }),
      groups: [{ field: 'currency' }],
      measures: [{ as: 'sum', of: 'value' }],
    });

  it('recomputes every figure, and is undone with its rates', async () => {
    const before = await sums();
    const rates = await ratesOf('EUR');
    const { body, status } = await change({ currency: 'EUR' });
    expect([status, detailOf({ body })]).toEqual([200, undefined]);
    const { unit } = body as Written<AnyRecord>;
    expect(await ratesOf('EUR')).toEqual([]);
    const after = await sums();
    const factor = 1 / rates[0][1];
    for (const [index, { figures }] of before.entries()) {
      const [was, is] = [Number(figures[0]), Number(after[index].figures[0])];
      // Rates wander by a few parts in a hundred over the two years.
      expect(Math.abs(is / (was * factor) - 1)).toBeLessThan(0.1);
      expect(is).not.toBe(was);
    }
    // What is computed of many equals what is computed of one, however large.
    const { rows: pounds } = await operations.records(
      ask('rate', { field: 'currency', is: 'anyOf', value: ['GBP'] }),
    );
    const dated = pounds.map((row) => ({
      currency: 'GBP',
      validFrom: String(row.validFrom),
      rate: Number(row.rate),
    }));
    const [{ id: stage, pipeline }] = operations.session.stages;
    const large = { name: 'Large', value: 987_654_321_012, currency: 'GBP', closeOn: '2026-12-20' };
    await operations.call('post', '/deals', { ...large, owner: operations.id, pipeline, stage }).expect(201);
    const [{ figures: whole }] = await operations.figures({
      ...ask('deal', { field: 'name', is: 'is', value: 'Large' }),
      measures: [{ as: 'sum', of: 'value' }],
    });
    expect(whole).toEqual([convert(large.value, rateOn(dated, 'EUR', 'GBP', '2026-11-19') ?? 0)]);
    await operations.call('post', `/units/${unit}/undo`).expect(200);
    expect(await sums()).toEqual(before);
    expect(await ratesOf('EUR')).toEqual(rates);
    expect(await ratesOf('GBP')).toEqual([]);
  });
});
