import { ask, type AnyRecord, type Condition } from '@zawn/core';
import { ChangeQueue } from '../../kernel/changes/change-queue';
import { Clock } from '../../platform/clock/clock';
import { Caller, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let stages: number[];
let deal: AnyRecord;

/** Another day, on which one signs in anew. */
const on = async (day: string) => {
  Object.assign(server.app.get(Clock), new Clock(day));
  rep = await Caller.signIn(server, 'tamsin.rudd');
};
const changed = async (values: object) => {
  const { version } = (await rep.records(ask('deal', { field: 'id', is: 'is', value: deal.id }))).rows[0];
  deal = valueOf<AnyRecord>(await rep.against(version, 'patch', `/deals/${deal.id}`, values).expect(200));
};

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  // Stages of their own ask nothing of a deal that leaves them.
  const operations = await Caller.signIn(server, 'bram.tideswell');
  const pipeline = valueOf<AnyRecord>(
    await operations.call('post', '/pipelines', { name: 'To and fro', position: 9 }).expect(201),
  ).id;
  stages = [];
  for (const [position, name] of ['First', 'Second', 'Third'].entries()) {
    const stage = { name, pipeline, position, probability: 10 * position, usualDays: 5 };
    stages.push(valueOf<AnyRecord>(await operations.call('post', '/stages', stage).expect(201)).id);
  }
  await on('2026-11-20');
  deal = await rep.addDeal({ pipeline, stage: stages[0] });
  for (const [day, stage] of [
    ['2026-11-22', 2],
    ['2026-11-27', 1],
    ['2026-11-30', 2],
  ] as const) {
    await on(day);
    await changed({ stage: stages[stage] });
  }
});
afterAll(() => server.close());

const isIt = { field: 'deal', is: 'anyOf' } as const;
const meets = async (where: Condition) => {
  const both = { join: 'all', of: [{ field: 'id', is: 'is', value: deal.id }, where] } as const;
  return (await rep.records(ask('deal', both))).total === 1;
};
const stays = (where: Condition, count = 1): Condition => ({
  related: 'stageStay.deal',
  is: count === 0 ? 'is' : 'atLeast',
  value: count,
  where,
});

describe('stays in stages', () => {
  it('tell how a deal came there, how long it stayed and what became of it', async () => {
    const { rows } = await rep.records({
      ...ask('stageStay', { ...isIt, value: [deal.id] }),
      columns: ['stage', 'moved', 'became', 'days', 'isLast', 'daysInAll'],
      sort: [{ field: 'enteredAt' }],
    });
    expect(
      rows.map((row) => [row.stage, row.moved, row.became, row.days, row.isLast, row.daysInAll]),
    ).toEqual([
      [stages[0], 'begun', 'wentOn', 2, true, 2],
      [stages[2], 'skipped', 'still', 5, false, null],
      [stages[1], 'back', 'wentOn', 3, true, 3],
      [stages[2], 'on', 'still', 0, true, null],
    ]);
  });

  it('are conditions of deals: went back, skipped a stage, was in one for long', async () => {
    const moved = (how: string): Condition => ({ field: 'moved', is: 'anyOf', value: [how] });
    expect(await meets(stays(moved('back')))).toBe(true);
    expect(await meets(stays(moved('skipped')))).toBe(true);
    expect(await meets(stays(moved('again')))).toBe(false);
    const inStage = (stage: number, days: number): Condition => ({
      join: 'all',
      of: [
        { field: 'stage', is: 'anyOf', value: [stages[stage]] },
        { field: 'days', is: 'above', value: days },
      ],
    });
    expect(await meets(stays(inStage(2, 4)))).toBe(true);
    expect(await meets(stays(inStage(2, 5), 0))).toBe(true);
  });

  it('are measured anew when stages are put in another order', async () => {
    const movedOf = async () =>
      (
        await rep.records({
          ...ask('stageStay', { ...isIt, value: [deal.id] }),
          sort: [{ field: 'enteredAt' }],
        })
      ).rows.map(({ moved, became }) => `${String(moved)} ${String(became)}`);
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const put = async (stage: number, position: number) => {
      const { version } = (await operations.records(ask('stage', { field: 'id', is: 'is', value: stage })))
        .rows[0];
      await operations.against(version, 'patch', `/stages/${stage}`, { position }).expect(200);
    };
    const before = await movedOf();
    const positionOf = async (stage: number) =>
      Number(
        (await operations.records(ask('stage', { field: 'id', is: 'is', value: stage }))).rows[0].position,
      );
    const [second, third] = [await positionOf(stages[1]), await positionOf(stages[2])];
    await put(stages[1], third + 2);
    await put(stages[2], third + 1);
    await server.app.get(ChangeQueue).done();
    expect(await movedOf()).toEqual(['begun wentOn', 'on wentOn', 'on ended', 'back wentOn']);
    await put(stages[1], second);
    await put(stages[2], third);
    await server.app.get(ChangeQueue).done();
    expect(await movedOf()).toEqual(before);
  });

  it('are seen by who sees the deal, and written by nobody', async () => {
    const other = await Caller.signIn(server, 'greta.lindqvell');
    expect((await other.records(ask('stageStay', { ...isIt, value: [deal.id] }))).total).toBe(0);
    await rep.call('post', '/stage-stays', { deal: deal.id, stage: stages[1] }).expect(403);
  });
});
