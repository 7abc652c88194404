import {
  openWorkOf,
  type AnyRecord,
  type HandOverPreview,
  type Job,
  type ProblemBody,
  type Question,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const personOf = async (id: number) => {
  const { body } = await operations.call('get', `/people/${id}`).expect(200);
  return (body as { record: AnyRecord }).record;
};

describe('the work of whoever leaves', () => {
  const owned = async (object: 'lead' | 'contact' | 'account' | 'deal' | 'activity', person: number) =>
    (await operations.records(openWorkOf(person).find((question) => question.object === object) as Question))
      .total;
  const kinds = ['lead', 'contact', 'account', 'deal', 'activity'] as const;
  const counts = async (person: number) => Promise.all(kinds.map((object) => owned(object, person)));

  it('goes to others as it was shown, in turns, and comes back when that is undone', async () => {
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const [one, two] = rep.session.people
      .filter(({ id, active, role }) => active && id !== rep.id && role === 'rep')
      .map(({ id }) => id);
    const before = await counts(rep.id);
    const others = [await counts(one), await counts(two)];
    const handOver = [
      { object: 'lead', to: [one, two] },
      { object: 'contact', to: [one] },
      {
        object: 'deal',
        to: [two],
        where: { field: 'value', is: 'atLeast', value: 2_000_000 },
      },
      { object: 'deal', to: [one] },
      { object: 'activity', to: [one] },
    ];
    const path = `/people/${rep.id}/leaving`;
    const { body: shown } = await operations.call('post', `${path}/preview`, { handOver }).expect(200);
    const preview = shown as HandOverPreview;
    expect(preview.kinds.map(({ count }) => count)).toEqual(before);
    // What a line asks for is not given away again by a later one.
    const [, , large, small] = preview.lines;
    expect(large).toBeGreaterThan(0);
    expect(large + small).toBe(before[3]);
    // Accounts were given to nobody.
    expect(preview.kinds.map(({ left }) => left > 0)).toEqual([false, false, true, false, false]);
    const { body } = await operations.call('post', path, { handOver }).expect(200);
    const job = await settled(body as Job);
    expect([job.state, job.refused]).toEqual(['done', 0]);
    expect(await counts(rep.id)).toEqual([0, 0, before[2], 0, 0]);
    const gained = (object: (typeof kinds)[number], person: number) =>
      preview.kinds.find((kind) => kind.object === object)?.given.find((given) => given.person === person)
        ?.count ?? 0;
    for (const [index, person] of [one, two].entries())
      expect(await counts(person)).toEqual(
        kinds.map((object, at) => others[index][at] + gained(object, person)),
      );
    expect(gained('lead', one) - gained('lead', two)).toBeLessThanOrEqual(1);
    await rep.call('get', '/notices').expect(401);
    await operations.call('post', path, { handOver }).expect(409);

    const { body: undone } = await operations.call('post', `/units/${job.unit}/undo`).expect(200);
    const back = (undone as Written<{ job?: Job }>).value.job;
    if (back) await settled(back);
    expect(await counts(rep.id)).toEqual(before);
    expect((await personOf(rep.id)).active).toBe(true);
  });

  it('is given by nobody but those who look after people, and to nobody who is not here', async () => {
    const manager = await Caller.signIn(server, 'maren.ollerby');
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const handOver = [{ object: 'lead', to: [rep.id] }];
    for (const path of ['leaving', 'leaving/preview'])
      await manager.call('post', `/people/${rep.id}/${path}`, { handOver }).expect(403);
    const refused = async (lines: object[], status: number) => {
      const { body } = await operations
        .call('post', `/people/${rep.id}/leaving`, { handOver: lines })
        .expect(status);
      expect((body as ProblemBody).detail).toMatch(/\.$/);
    };
    await refused(handOver, 409);
    await refused([{ object: 'lead', to: [999_999] }], 404);
    await refused([{ object: 'lead', to: [manager.id], where: { field: 'gone', is: 'isEmpty' } }], 422);
    await refused([{ object: 'person', to: [manager.id] }], 422);
    expect((await personOf(rep.id)).active).toBe(true);
  });

  async function settled(job: Job): Promise<Job> {
    let now = job;
    while (now.state === 'waiting' || now.state === 'running') {
      await new Promise((resolve) => setTimeout(resolve, 20));
      now = (await operations.call('get', `/jobs/${job.id}`).expect(200)).body as Job;
    }
    return now;
  }
});
