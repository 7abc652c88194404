import { ask, type AnyRecord, type EntriesWritten, type Written } from '@zawn/core';
import { Caller, detailOf, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const change = async (values: object) => {
  const { body } = await operations.call('get', '/organisation/1').expect(200);
  const { version } = (body as { record: AnyRecord }).record;
  return operations.against(version, 'patch', '/organisation/1', values);
};

const newDeal = async () => {
  const [stage] = rep.session.stages;
  const values = { name: 'Tide gauges', pipeline: stage.pipeline, stage: stage.id, owner: rep.id };
  const more = { value: 100_000, currency: 'GBP', closeOn: '2026-12-20' };
  return valueOf<AnyRecord>(await rep.call('post', '/deals', { ...values, ...more }).expect(201));
};

describe('numbers of deals', () => {
  it('follow the pattern, begin anew each year where that is wanted, and never come twice', async () => {
    const usual = String((await newDeal()).number);
    expect(usual).toMatch(/^D-\d+$/);
    const yearly = { dealNumber: 'BW {YYYY}/{0000}', dealNumberFrom: 1, dealNumberYearly: true };
    expect((await change(yearly)).status).toBe(200);
    expect([(await newDeal()).number, (await newDeal()).number]).toEqual(['BW 2026/0001', 'BW 2026/0002']);
    // From the first again: what was given out already is passed over.
    expect((await change({ dealNumberYearly: false, dealNumber: 'BW 2026/{0000}' })).status).toBe(200);
    const next = String((await newDeal()).number);
    expect(next).not.toMatch(/BW 2026\/000[12]$/);
    expect((await change({ dealNumber: null, dealNumberFrom: null, dealNumberYearly: null })).status).toBe(
      200,
    );
    expect(Number(String((await newDeal()).number).slice(2))).toBeGreaterThan(Number(usual.slice(2)));
  });

  it('pass over those that an earlier pattern gave out', async () => {
    const all = (await operations.records(ask('deal'))).total;
    expect((await change({ dealNumberFrom: 1 })).status).toBe(200);
    for (let count = 0; count < 3; count += 1) {
      const { number } = await newDeal();
      const same = await operations.records(
        ask('deal', { field: 'number', is: 'is', value: number as string }),
      );
      expect([number, same.total]).toEqual([number, 1]);
    }
    expect((await operations.records(ask('deal'))).total).toBe(all + 3);
    await change({ dealNumberFrom: null });
  });

  it.each([
    [{ dealNumber: 'D-' }, /once, as \{0\}/],
    [{ dealNumber: 'D-{n}' }, /\{n\} is unknown/],
    [{ dealNumberYearly: true }, /the year belongs in it/],
    [{ dealNumberFrom: 0 }, /numbered from/],
  ])('are refused as %j', async (values, complaint) => {
    const answer = await change(values);
    expect([answer.status, detailOf(answer)]).toEqual([422, expect.stringMatching(complaint) as string]);
  });
});

describe('working days and holidays', () => {
  const text = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'BEGIN:VEVENT',
    'UID:1',
    'SUMMARY:Boxing Day',
    'DTSTART;VALUE=DATE:20271228',
    'END:VEVENT',
    'BEGIN:VEVENT',
    'UID:2',
    'SUMMARY:Stand-up',
    'DTSTART:20261120T090000Z',
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n');

  it('come from a calendar file: read first, entered as one change, undone', async () => {
    const before = (await operations.records(ask('holiday'))).total;
    const { body: read } = await operations.call('post', '/holidays/read', { text }).expect(200);
    expect(read).toEqual({
      holidays: [{ day: '2027-12-28', name: 'Boxing Day' }],
      faults: ['“Stand-up” is not a whole day'],
    });
    const { holidays } = read as { holidays: object[] };
    const entered = await operations.call('post', '/holidays/entries', { holidays }).expect(200);
    expect(valueOf<EntriesWritten>(entered)).toEqual({ created: 1, changed: 0, same: 0 });
    const again = await operations.call('post', '/holidays/entries', { holidays }).expect(200);
    expect(valueOf<EntriesWritten>(again)).toEqual({ created: 0, changed: 0, same: 1 });
    const { body: session } = await rep.call('get', '/session').expect(200);
    expect(session).toHaveProperty(
      'holidays',
      expect.arrayContaining([{ day: '2027-12-28', name: 'Boxing Day', team: null }]),
    );
    const { unit } = entered.body as Written<EntriesWritten>;
    await operations.call('post', `/units/${unit}/undo`).expect(200);
    expect((await operations.records(ask('holiday'))).total).toBe(before);
  });

  it('are refused where they make no sense, and to those who may not set them', async () => {
    for (const [values, complaint] of [
      [{ workingDays: [] }, /choose one/],
      [{ workingDays: ['someday'] }, /Working days/],
      [{ opens: '09:00', closes: '08:00' }, /end after/],
      [{ opens: '9 o’clock' }, /Works from/],
    ] as const) {
      const answer = await change(values);
      expect([answer.status, detailOf(answer)]).toEqual([422, expect.stringMatching(complaint) as string]);
    }
    const day = { day: '2027-04-05', name: 'Fair' };
    const refused = async (holidays: object[], status: number) =>
      detailOf(await operations.call('post', '/holidays/entries', { holidays }).expect(status));
    expect(await refused([day, { ...day, name: 'Rest' }], 422)).toContain('two holidays on 2027-04-05');
    await refused([{ ...day, day: '2027-02-30' }], 422);
    await refused([{ ...day, team: 99_999 }], 422);
    await rep.call('post', '/holidays/entries', { holidays: [day] }).expect(403);
    await operations.call('post', '/holidays', day).expect(201);
    const twice = await operations.call('post', '/holidays', { ...day, name: 'Rest' });
    expect([twice.status, detailOf(twice)]).toEqual([422, expect.stringContaining('Fair is on this day')]);
    const team = operations.session.teams[0].id;
    await operations.call('post', '/holidays', { ...day, name: 'Rest', team }).expect(201);
  });

  it('are a team’s own where it has them', async () => {
    const team = operations.session.teams[1];
    const { body } = await operations.call('get', `/teams/${team.id}`).expect(200);
    const { version } = (body as { record: AnyRecord }).record;
    const wrong = await operations.against(version, 'patch', `/teams/${team.id}`, { opens: '08:00' });
    expect([wrong.status, detailOf(wrong)]).toEqual([422, expect.stringContaining('say both')]);
    const hours = { opens: '08:00', closes: '16:00', workingDays: ['fri', 'sat'] };
    expect((await operations.against(version, 'patch', `/teams/${team.id}`, hours)).status).toBe(200);
    const session = (await rep.call('get', '/session').expect(200)).body as { teams: object[] };
    expect(session.teams).toContainEqual(expect.objectContaining({ id: team.id, ...hours }));
  });
});

describe('how amounts are written', () => {
  it('is set for each currency once', async () => {
    const { body } = await operations
      .call('post', '/currency-formats', { currency: 'SEK', symbol: 'kr', decimals: 0, place: 'after' })
      .expect(201);
    const session = (await rep.call('get', '/session').expect(200)).body as { currencyFormats: object[] };
    expect(session.currencyFormats).toEqual([{ currency: 'SEK', symbol: 'kr', decimals: 0, place: 'after' }]);
    const twice = await operations.call('post', '/currency-formats', { currency: 'SEK', symbol: 'Skr' });
    expect([twice.status, detailOf(twice)]).toEqual([422, expect.stringContaining('set already')]);
    await operations.call('post', '/currency-formats', { currency: 'EUR', decimals: 9 }).expect(422);
    await rep.call('post', '/currency-formats', { currency: 'EUR', symbol: 'E' }).expect(403);
    const { value } = body as Written<AnyRecord>;
    await operations.against(value.version, 'delete', `/currency-formats/${value.id}`);
  });
});
