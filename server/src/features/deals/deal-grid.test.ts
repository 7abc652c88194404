import {
  ask,
  attentionOf,
  columnOf,
  convert,
  dayIn,
  gridColumns,
  isPressing,
  rateOn,
  type AnyRecord,
  type DealGridAnswer,
  type DealsMoved,
  type RecordAnswer,
  type RecordOf,
  type Written,
} from '@zawn/core';
import { Caller, detailOf, startServer, TODAY, type TestServer } from '../../testing';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: true });
});
afterAll(() => server.close());

const columns = gridColumns(TODAY);

describe.each(['tamsin.rudd', 'maren.ollerby', 'bram.tideswell'])('the deal grid of %s', (email) => {
  let caller: Caller;
  let open: AnyRecord[];
  const gridOf = async (request: object): Promise<DealGridAnswer> => {
    const { body } = await caller.call('post', '/deals/grid', request).expect(200);
    return body as DealGridAnswer;
  };
  const stageOf = (deal: AnyRecord) =>
    caller.session.stages.find(({ id }) => id === deal.stage) as RecordOf<'stage'>;
  const worth = (deal: AnyRecord) => {
    const { rates, organisation } = caller.session;
    const rate = Number(rateOn(rates, organisation.currency, String(deal.currency), TODAY));
    const share = (deal.probability as number | null) ?? stageOf(deal).probability;
    const weighted = (Number(deal.value) * share) / 100;
    return { value: convert(Number(deal.value), rate), weighted: convert(weighted, rate) };
  };
  const needs = (deal: AnyRecord) =>
    attentionOf(
      {
        outcome: 'open',
        closeOn: String(deal.closeOn),
        nextStepOn: deal.nextStepOn as string | null,
        stageSince: dayIn(caller.session.organisation.timeZone, String(deal.stageSince)),
        usualDays: stageOf(deal).usualDays,
        timesPushed: Number(deal.timesPushed ?? 0),
        deciderNamed: deal.deciderNamed === true,
      },
      TODAY,
    ).some(isPressing);

  beforeAll(async () => {
    caller = await Caller.signIn(server, email);
    open = (await caller.records(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }))).rows;
    expect(open.length).toBeGreaterThan(5);
  });

  it('sums all deals of each cell, and shows the first of them in the order that matters', async () => {
    for (const { id: pipeline } of caller.session.pipelines) {
      const own = open.filter((deal) => deal.pipeline === pipeline);
      const { cells, rows } = await gridOf({ pipeline, each: 2 });
      expect(cells.reduce((sum, { count }) => sum + count, 0)).toBe(own.length);
      for (const { stage, column, count, value, weighted } of cells) {
        const inside = own.filter(
          (deal) => deal.stage === stage && columnOf(String(deal.closeOn), columns).key === column,
        );
        expect(count).toBe(inside.length);
        expect(value).toBe(inside.reduce((sum, deal) => sum + worth(deal).value, 0));
        expect(weighted).toBe(inside.reduce((sum, deal) => sum + worth(deal).weighted, 0));
        const ordered = inside.sort(
          (a, b) => Number(needs(b)) - Number(needs(a)) || worth(b).value - worth(a).value || a.id - b.id,
        );
        const shown = rows.filter(
          (deal) => deal.stage === stage && columnOf(String(deal.closeOn), columns).key === column,
        );
        expect(shown.map(({ id }) => id)).toEqual(ordered.slice(0, 2).map(({ id }) => id));
      }
    }
  });

  it('shows more of the cells that are opened, and of those alone', async () => {
    const [{ id: pipeline }] = caller.session.pipelines;
    const { cells } = await gridOf({ pipeline, each: 1 });
    const [largest] = [...cells].sort((a, b) => b.count - a.count);
    const { rows } = await gridOf({
      pipeline,
      each: 1,
      more: [{ stage: largest.stage, column: largest.column, count: 30 }],
    });
    expect(rows).toHaveLength(cells.length - 1 + Math.min(largest.count, 30));
  });

  it('asks under a condition, and says what of it cannot be asked', async () => {
    const [{ id: pipeline }] = caller.session.pipelines;
    const where = { field: 'value', is: 'atLeast', value: 2_000_000 };
    const { cells, leftOut } = await gridOf({ pipeline, where });
    const counted = open.filter((deal) => deal.pipeline === pipeline && worth(deal).value >= 2_000_000);
    expect(cells.reduce((sum, { count }) => sum + count, 0)).toBe(counted.length);
    expect(leftOut).toEqual([]);
    const gone = await gridOf({ pipeline, where: { field: 'shoeSize', is: 'is', value: 4 } });
    expect(gone.leftOut.map(({ part }) => part)).toEqual(['shoeSize']);
  });
});

describe('a grid', () => {
  it.each<[string, object]>([
    ['without a pipeline', {}],
    ['of too many strips', { pipeline: 1, each: 5000 }],
    ['of something unknown', { pipeline: 1, colour: 'blue' }],
    ['under a condition that is none', { pipeline: 1, where: { field: 'value', is: 'glows' } }],
  ])('%s is refused', async (_, request) => {
    const caller = await Caller.signIn(server, 'tamsin.rudd');
    await caller.call('post', '/deals/grid', request).expect(422);
  });
});

describe('moving several deals', () => {
  let rep: Caller;
  beforeAll(async () => {
    rep = await Caller.signIn(server, 'tamsin.rudd');
  });

  const moves = async (count: number) => {
    const open = ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] });
    const { rows } = await rep.records({ ...open, sort: [{ field: 'id', descending: true }] }, count);
    return rows.map((deal) => ({
      id: deal.id,
      version: deal.version,
      stage: Number(deal.stage),
      closeOn: '2027-02-11',
    }));
  };
  const closeOn = async (id: number) =>
    ((await rep.call('get', `/deals/${id}`).expect(200)).body as RecordAnswer).record.closeOn;

  it('is one change, undone as one', async () => {
    const all = await moves(5);
    const before = await Promise.all(all.map(({ id }) => closeOn(id)));
    const { body } = await rep.call('post', '/deals/moves', { moves: all }).expect(200);
    const { unit, label, value } = body as Written<DealsMoved>;
    expect([label, value]).toEqual(['Moved 5 deals', { moved: 5, refused: [] }]);
    expect(new Set(await Promise.all(all.map(({ id }) => closeOn(id))))).toEqual(new Set(['2027-02-11']));
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect(await Promise.all(all.map(({ id }) => closeOn(id)))).toEqual(before);
  });

  it('leaves those that cannot be moved as they are, and names them', async () => {
    const [first, second, third] = await moves(3);
    const stale = { ...second, version: second.version + 1 };
    const foreign = rep.session.stages.find(
      (stage) => stage.pipeline !== rep.session.stages.find(({ id }) => id === third.stage)?.pipeline,
    );
    const elsewhere = { ...third, stage: Number(foreign?.id) };
    const { body } = await rep.call('post', '/deals/moves', { moves: [first, stale, elsewhere] }).expect(200);
    const { value } = body as Written<DealsMoved>;
    expect(value.moved).toBe(1);
    expect(value.refused.map(({ id }) => id)).toEqual([second.id, third.id]);
    expect(value.refused[1].reason).toContain('is a stage of another pipeline');
    expect(await closeOn(second.id)).not.toBe('2027-02-11');
    const none = await rep.call('post', '/deals/moves', { moves: [stale] }).expect(409);
    expect(detailOf(none)).toContain('Nothing was written.');
  });

  it('takes five hundred at most, each once, and with a date that is one', async () => {
    const [move] = await moves(1);
    await rep.call('post', '/deals/moves', { moves: [] }).expect(422);
    await rep.call('post', '/deals/moves', { moves: [move, move] }).expect(422);
    const many = Array.from({ length: 501 }, (_, at) => ({ ...move, id: at + 1 }));
    await rep.call('post', '/deals/moves', { moves: many }).expect(422);
    await rep.call('post', '/deals/moves', { moves: [{ ...move, closeOn: '2027-02-30' }] }).expect(409);
  });
});
