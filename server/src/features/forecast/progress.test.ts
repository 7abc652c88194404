import {
  ask,
  convert,
  dayIn,
  daysBetween,
  periodOf,
  rateOn,
  type AnyRecord,
  type ProgressAnswer,
  type RecordOf,
} from '@zawn/core';
import { Caller, startServer, TODAY, type TestServer } from '../../testing';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: true });
});
afterAll(() => server.close());

const period = { unit: 'fiscalQuarter', offset: 0 } as const;

describe.each(['tamsin.rudd', 'maren.ollerby'])('the progress of %s', (email) => {
  it('is what the deals and targets say, computed one by one', async () => {
    const caller = await Caller.signIn(server, email);
    const { body } = await caller.call('post', '/forecast/progress', { period }).expect(200);
    const { organisation, rates, stages } = caller.session;
    const { from, to } = periodOf('fiscalQuarter', TODAY, organisation, 0);
    const isIn = (day: unknown) => String(day) >= from && String(day) < to;
    const deals = (await caller.records(ask('deal'))).rows;
    const worth = (deal: AnyRecord, day: unknown) =>
      convert(
        Number(deal.value),
        Number(rateOn(rates, organisation.currency, String(deal.currency), String(day))),
      );
    const sum = (all: AnyRecord[], day: (deal: AnyRecord) => unknown) =>
      all.reduce((total, deal) => total + worth(deal, day(deal)), 0);
    const closed = (outcome: string) => {
      const all = deals.filter((deal) => deal.outcome === outcome && isIn(deal.closedOn));
      return { count: all.length, value: sum(all, (deal) => deal.closedOn) };
    };
    const all = deals.filter(({ outcome }) => outcome === 'open');
    const expected = all.filter(({ closeOn }) => isIn(closeOn));
    const [won, lost] = [closed('won'), closed('lost')];
    const targets = (await caller.records(ask('target'))).rows.filter(({ startsOn }) => isIn(startsOn));
    const target = targets.reduce((total, { amount }) => total + Number(amount), 0);
    const usual = (deal: AnyRecord) =>
      (stages.find(({ id }) => id === deal.stage) as RecordOf<'stage'>).usualDays;
    const open = sum(expected, () => TODAY);
    expect(body as ProgressAnswer).toMatchObject({
      won,
      lost,
      target,
      open: { count: expected.length, value: open },
      attainment: won.value / target,
      gap: Math.max(target - won.value, 0),
      coverage: open / Math.max(target - won.value, 0),
      winRate: {
        byCount: won.count / (won.count + lost.count),
        byValue: won.value / (won.value + lost.value),
      },
      adrift: all.filter(({ nextStepOn }) => nextStepOn === null).length,
      stale: all.filter(
        (deal) => daysBetween(dayIn(organisation.timeZone, String(deal.stageSince)), TODAY) > usual(deal),
      ).length,
    });
  });
});

it('is of the people named, as far as they are within reach', async () => {
  const rep = await Caller.signIn(server, 'tamsin.rudd');
  const other = await Caller.signIn(server, 'greta.lindqvell');
  const of = async (owners: number[]) =>
    (await rep.call('post', '/forecast/progress', { period, owners }).expect(200)).body as ProgressAnswer;
  expect(await of([other.id])).toMatchObject({
    won: { count: 0 },
    open: { count: 0 },
    target: null,
    stale: 0,
  });
  expect((await of([rep.id])).open.count).toBeGreaterThan(0);
  await rep.call('post', '/forecast/progress', { period: { unit: 'decade', offset: 0 } }).expect(422);
});
