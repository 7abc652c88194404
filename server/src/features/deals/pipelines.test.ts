import { ask, type AnyRecord, type Job, type StageMeasures, type Undone, type Written } from '@zawn/core';
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

const recordOf = async (path: string) => {
  const { body } = await operations.call('get', path).expect(200);
  return (body as { record: AnyRecord }).record;
};
const change = async (path: string, values: object) =>
  operations.against((await recordOf(path)).version, 'patch', path, values);
const stagesOf = async (pipeline: number) => {
  const question = ask('stage', { field: 'pipeline', is: 'anyOf', value: [pipeline] });
  const { rows } = await operations.records({ ...question, sort: [{ field: 'position' }] });
  return rows;
};
const openIn = async (stage: number) =>
  (
    await operations.records(
      ask(
        'deal',
        { field: 'stage', is: 'anyOf', value: [stage] },
        { field: 'outcome', is: 'anyOf', value: ['open'] },
      ),
    )
  ).total;
const settled = async (job: Job): Promise<Job> => {
  let now = job;
  while (now.state === 'waiting' || now.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, 20));
    now = (await operations.call('get', `/jobs/${job.id}`).expect(200)).body as Job;
  }
  return now;
};
const pipeline = () => operations.session.pipelines[0].id;
const add = (name: string, values: object = {}) =>
  operations.call('post', '/stages', {
    name,
    pipeline: pipeline(),
    position: 0,
    probability: 50,
    usualDays: 10,
    ...values,
  });

describe('stages', () => {
  it('are added at the end of their pipeline, each pipeline’s together, and put into another order', async () => {
    const other = operations.session.pipelines[1].id;
    const [before, beside] = [await stagesOf(pipeline()), await stagesOf(other)];
    const added = valueOf<AnyRecord>(await add('Papers out').expect(201));
    const after = await stagesOf(pipeline());
    expect(after.map(({ id }) => id)).toEqual([...before.map(({ id }) => id), added.id]);
    const last = Number(after.at(-1)?.position);
    expect((await stagesOf(other)).every(({ position }) => Number(position) > last)).toBe(true);
    expect((await stagesOf(other)).map(({ id }) => id)).toEqual(beside.map(({ id }) => id));

    const stages = after.map(({ id }) => id).reverse();
    const path = `/pipelines/${pipeline()}/stage-order`;
    const { body } = await operations.call('post', path, { stages }).expect(200);
    expect((await stagesOf(pipeline())).map(({ id }) => id)).toEqual(stages);
    await operations.call('post', `/units/${(body as Written<null>).unit}/undo`).expect(200);
    expect((await stagesOf(pipeline())).map(({ id }) => id)).toEqual(after.map(({ id }) => id));
    for (const wrong of [stages.slice(1), [...stages, beside[0].id]])
      expect(detailOf(await operations.call('post', path, { stages: wrong }).expect(422))).toContain('once');
  });

  it.each([
    [{ probability: 101 }, /Probability/],
    [{ probability: -1 }, /Probability/],
    [{ usualDays: 0 }, /Usual days/],
    [{ name: '' }, /Name/],
    [{ name: ' papers OUT ' }, /already/],
  ])('are not written as %j', async (values, complaint) => {
    const answer = await add('Another', values);
    expect([answer.status, detailOf(answer)]).toEqual([422, expect.stringMatching(complaint) as string]);
  });

  it('are fifty in a pipeline at most, however many are asked for', async () => {
    const path = { name: 'Long way', position: 9 };
    const long: AnyRecord = valueOf(await operations.call('post', '/pipelines', path).expect(201));
    for (let count = 0; count < 50; count += 1) await add(`Step ${count}`, { pipeline: long.id }).expect(201);
    const more = await add('Step 50', { pipeline: long.id });
    expect([more.status, detailOf(more)]).toEqual([409, expect.stringContaining('50 stages at most')]);
    expect(await stagesOf(long.id)).toHaveLength(50);
  });

  it('take probabilities of 0 and 100', async () => {
    for (const probability of [0, 100]) await add(`Sure ${probability}`, { probability }).expect(201);
  });

  it('are measured by what became of the deals in them', async () => {
    const { body } = await operations.call('get', '/stage-measures').expect(200);
    const { measures, open } = body as StageMeasures;
    const [first] = await stagesOf(pipeline());
    const measure = measures.find(({ stage }) => stage === first.id);
    expect(measure?.closed).toBeGreaterThan(10);
    expect(measure?.won).toBeLessThanOrEqual(Number(measure?.closed));
    expect(Number(measure?.ninetiethDays)).toBeGreaterThanOrEqual(Number(measure?.medianDays));
    expect(open.find(({ stage }) => stage === first.id)?.count).toBe(await openIn(first.id));
    await rep.call('get', '/stage-measures').expect(403);
  });
});

describe('a stage that is retired', () => {
  it('gives its open deals to another as one change, takes none any more, and comes back when that is undone', async () => {
    const [first, second] = await stagesOf(pipeline());
    const [here, there] = [await openIn(first.id), await openIn(second.id)];
    expect(here).toBeGreaterThan(5);
    // Not by hand, while something stands open in it.
    const byHand = await change(`/stages/${first.id}`, { retired: true });
    expect([byHand.status, detailOf(byHand)]).toEqual([409, expect.stringContaining('still open in it')]);

    const path = `/stages/${first.id}/retirement`;
    const { body } = await operations.call('post', path, { to: second.id }).expect(200);
    const job = await settled(body as Job);
    expect([job.state, job.refused, job.changed]).toEqual(['done', 0, here + 1]);
    expect([await openIn(first.id), await openIn(second.id)]).toEqual([0, here + there]);
    expect((await recordOf(`/stages/${first.id}`)).retired).toBe(true);
    expect(detailOf(await operations.call('post', path, { to: second.id }).expect(409))).toContain('already');

    const moved = (
      await operations.records(
        ask(
          'deal',
          { field: 'stage', is: 'anyOf', value: [second.id] },
          { field: 'outcome', is: 'anyOf', value: ['open'] },
        ),
      )
    ).rows[0];
    const into = await operations.against(moved.version, 'patch', `/deals/${moved.id}`, { stage: first.id });
    expect([into.status, detailOf(into)]).toEqual([409, expect.stringContaining('is retired')]);

    const undone = await operations.call('post', `/units/${job.unit}/undo`).expect(200);
    const back = valueOf<Undone>(undone).job;
    if (back) await settled(back);
    expect([await openIn(first.id), await openIn(second.id)]).toEqual([here, there]);
    expect((await recordOf(`/stages/${first.id}`)).retired).not.toBe(true);
  });

  it('takes along what is moved into it at the same moment', async () => {
    const [first, second, third] = await stagesOf(pipeline());
    for (let round = 0; round < 4; round += 1) {
      const late = (
        await operations.records(
          ask(
            'deal',
            { field: 'stage', is: 'anyOf', value: [third.id] },
            { field: 'outcome', is: 'anyOf', value: ['open'] },
          ),
          1,
        )
      ).rows[0];
      const [retiring, move] = await Promise.all([
        operations.call('post', `/stages/${first.id}/retirement`, { to: second.id }),
        operations.against(late.version, 'patch', `/deals/${late.id}`, { stage: first.id }),
      ]);
      expect([200, 409]).toContain(move.status);
      const job = await settled(retiring.body as Job);
      const isRetired = (await recordOf(`/stages/${first.id}`)).retired === true;
      expect([isRetired, await openIn(first.id), job.refusals]).toEqual([true, 0, []]);
      const undone = await operations.call('post', `/units/${job.unit}/undo`).expect(200);
      const back = valueOf<Undone>(undone).job;
      if (back) await settled(back);
    }
  });

  it('gives them only to a stage of the same pipeline that is used', async () => {
    const [first] = await stagesOf(pipeline());
    const [elsewhere] = await stagesOf(operations.session.pipelines[1].id);
    const path = `/stages/${first.id}/retirement`;
    for (const to of [first.id, elsewhere.id])
      expect(detailOf(await operations.call('post', path, { to }).expect(422))).toContain('same pipeline');
    await operations.call('post', path, { to: 999_999 }).expect(404);
    await rep.call('post', path, { to: first.id }).expect(403);
  });
});

describe('pipelines', () => {
  it('are added, and retired while nothing is open in them and others are used', async () => {
    const twice = await operations.call('post', '/pipelines', {
      name: operations.session.pipelines[0].name,
      position: 0,
    });
    expect([twice.status, detailOf(twice)]).toEqual([422, expect.stringContaining('already')]);
    const added = valueOf<AnyRecord>(
      await operations.call('post', '/pipelines', { name: 'Renewals', position: 0 }).expect(201),
    );
    const busy = await change(`/pipelines/${pipeline()}`, { retired: true });
    expect([busy.status, detailOf(busy)]).toEqual([409, expect.stringContaining('still open in it')]);
    const only = valueOf<AnyRecord>(await add('Only one', { pipeline: added.id }).expect(201));
    const last = await change(`/stages/${only.id}`, { retired: true });
    expect([last.status, detailOf(last)]).toEqual([409, expect.stringContaining('last stage')]);
    expect((await change(`/pipelines/${added.id}`, { retired: true })).status).toBe(200);
    expect((await change(`/pipelines/${added.id}`, { retired: false })).status).toBe(200);
    const none = await rep.call('post', '/pipelines', { name: 'Mine', position: 0 });
    expect(none.status).toBe(403);
  });

  it('are retired with where the open deals of each stage go, as one change that is undone', async () => {
    const [from, to] = operations.session.pipelines.map(({ id }) => id);
    const [stages, targets] = [await stagesOf(from), await stagesOf(to)];
    const counts = () => Promise.all([...stages, ...targets].map(({ id }) => openIn(id)));
    const before = await counts();
    const path = `/pipelines/${from}/retirement`;
    const busy = stages.filter((_, index) => before[index] > 0);
    expect(busy.length).toBeGreaterThan(2);
    const all = busy.map(({ id }, index) => ({ stage: id, to: targets[Math.min(index, 1)].id }));

    const unsaid = await operations.call('post', path, { stages: all.slice(1) }).expect(422);
    expect(detailOf(unsaid)).toContain(`say where deals in “${String(busy[0].name)}” go`);
    const wrong: [object, RegExp][] = [
      [{ stage: busy[0].id, to: busy[1].id }, /stage of another pipeline/],
      [{ stage: targets[0].id, to: targets[1].id }, /stages of the pipeline that is retired/],
      [{ stage: busy[0].id, to: 999_999 }, /stage of another pipeline/],
    ];
    for (const [move, words] of wrong) {
      const answer = await operations.call('post', path, { stages: [move, ...all.slice(1)] }).expect(422);
      expect(detailOf(answer)).toMatch(words);
    }
    await operations.call('post', path, { stages: [all[0], ...all] }).expect(422);
    await rep.call('post', path, { stages: all }).expect(403);
    expect(await counts()).toEqual(before);

    const { body } = await operations.call('post', path, { stages: all }).expect(200);
    const job = await settled(body as Job);
    const moved = busy.reduce((sum, { id }) => sum + before[stages.findIndex((each) => each.id === id)], 0);
    expect([job.state, job.refusals, job.changed]).toEqual(['done', [], moved + 1]);
    expect((await recordOf(`/pipelines/${from}`)).retired).toBe(true);
    const after = await counts();
    expect(after.slice(0, stages.length).every((count) => count === 0)).toBe(true);
    expect(after.reduce((sum, count) => sum + count, 0)).toBe(before.reduce((sum, count) => sum + count, 0));
    expect(after[stages.length]).toBe(before[stages.length] + before[stages.indexOf(busy[0])]);
    expect(detailOf(await operations.call('post', path, { stages: [] }).expect(409))).toContain('already');

    const undone = await operations.call('post', `/units/${job.unit}/undo`).expect(200);
    const back = valueOf<Undone>(undone).job;
    if (back) await settled(back);
    expect(await counts()).toEqual(before);
    expect((await recordOf(`/pipelines/${from}`)).retired).not.toBe(true);
  });

  it('keep one that is used', async () => {
    const { rows } = await operations.records(ask('pipeline'));
    const used = rows.filter(({ retired }) => retired !== true);
    const [first] = await stagesOf(pipeline());
    for (const { id } of used.filter((each) => each.id !== pipeline())) {
      const stages = (await stagesOf(id)).map((stage) => ({ stage: stage.id, to: first.id }));
      const { body } = await operations.call('post', `/pipelines/${id}/retirement`, { stages }).expect(200);
      expect((await settled(body as Job)).refusals).toEqual([]);
    }
    const last = await operations.call('post', `/pipelines/${pipeline()}/retirement`, { stages: [] });
    expect([last.status, detailOf(last)]).toEqual([422, expect.stringContaining('say where')]);
    expect((await change(`/pipelines/${pipeline()}`, { retired: true })).status).toBe(409);
  });
});
