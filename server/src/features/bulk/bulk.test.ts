import {
  ask,
  systemActor,
  type AnyRecord,
  type BulkPreview,
  type DealHistory,
  type Job,
  type Question,
  type Undone,
  type Written,
} from '@zawn/core';
import { Door } from '../../kernel/records/door';
import { Clock } from '../../platform/clock/clock';
import { Caller, startServer, type TestServer } from '../../testing';

// A thousand records are changed and changed back.

let server: TestServer;
let rep: Caller;
let manager: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  manager = await Caller.signIn(server, 'maren.ollerby');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const all = (object: 'lead' | 'deal' | 'contact'): Question => ({ ...ask(object), columns: [], sort: [] });
const run = async (caller: Caller, request: object): Promise<Job> => {
  const { body } = await caller.call('post', '/bulk', request).expect(200);
  return ended(caller, body as Job);
};
const ended = async (caller: Caller, job: Job): Promise<Job> => {
  if (job.state !== 'waiting' && job.state !== 'running') return job;
  const { body } = await caller.call('get', `/jobs/${job.id}`).expect(200);
  return ended(caller, body as Job);
};
const snapshot = async (object: 'lead' | 'deal' | 'contact') =>
  (await operations.records(ask(object))).rows.map(
    ({ version: _version, updatedAt: _updatedAt, ...rest }) => rest,
  );

describe('changing many records', () => {
  it('shows the count and three examples first, and writes nothing', async () => {
    const before = await snapshot('contact');
    const request = {
      object: 'contact',
      selection: { question: all('contact') },
      action: { do: 'change', values: { relationship: 'partner' } },
    };
    const { body } = await manager.call('post', '/bulk/preview', request).expect(200);
    const preview = body as BulkPreview;
    expect(preview.count).toBe((await manager.records(ask('contact'), 1)).total);
    expect(preview.examples).toHaveLength(3);
    expect(preview.examples[0].after).toEqual({ relationship: 'partner' });
    expect(await snapshot('contact')).toEqual(before);
  });

  it('does it to all that match but for those taken out, within reach only, and takes it back', async () => {
    const before = await snapshot('lead');
    const mine = (await rep.records(ask('lead'))).rows;
    const [spared] = mine;
    const job = await run(rep, {
      object: 'lead',
      selection: { question: all('lead'), except: [spared.id] },
      action: { do: 'tag', add: ['spring'], remove: [] },
    });
    const converted = mine.filter(({ convertedAt, id }) => convertedAt !== null && id !== spared.id).length;
    expect(job).toMatchObject({ state: 'done', total: mine.length - 1, refused: converted });
    expect(job.refusals[0].reason).toContain('read-only');
    const tagged = await operations.records(ask('lead', { field: 'tags', is: 'anyOf', value: ['spring'] }));
    expect(tagged.total).toBe(job.changed);
    expect(tagged.rows.every(({ owner }) => owner === rep.id)).toBe(true);

    await rep.call('post', `/units/${job.unit}/undo`).expect(200);
    expect(await snapshot('lead')).toEqual(before);
  });

  it('takes back a large change as a job of its own', async () => {
    const before = await snapshot('contact');
    const job = await run(operations, {
      object: 'contact',
      selection: { question: all('contact') },
      action: { do: 'change', values: { city: 'Tolmouth' } },
    });
    expect(job.changed).toBeGreaterThan(500);
    const { body } = await operations.call('post', `/units/${job.unit}/undo`).expect(200);
    const { value } = body as { value: { job: Job } };
    expect(await ended(operations, value.job)).toMatchObject({
      kind: 'undo',
      // It says so while it goes on; what is undone at its end is named by the unit.
      label: `Undoing: ${job.label}`,
      state: 'done',
      changed: job.changed,
    });
    expect(await snapshot('contact')).toEqual(before);
    await operations.call('post', `/units/${job.unit}/undo`).expect(409);
  });

  it('carries the instants at which it was written, not that of its beginning', async () => {
    const clock = server.app.get(Clock);
    const standing = clock.now();
    let seconds = 0;
    // A clock that goes on by a second at every look.
    clock.now = () => new Date(Date.parse(standing) + 1000 * (seconds += 1)).toISOString();
    try {
      const begun = clock.now();
      const job = await run(operations, {
        object: 'contact',
        selection: { question: all('contact') },
        action: { do: 'change', values: { city: 'Upper Tolmouth' } },
      });
      const ofUnit = ask('loggedChange', { field: 'unit', is: 'is', value: job.unit as number });
      const instants = (await operations.records(ofUnit)).rows.map(({ at }) => String(at));
      expect(instants).toHaveLength(job.changed);
      expect(instants.every((at) => at > begun)).toBe(true);
      // A slice is written at once; the slices follow one another, and the first is of fifty.
      expect(new Set(instants).size).toBeGreaterThan(1);
      expect(instants.filter((at) => at === instants[0]).length).toBeLessThan(job.changed);
    } finally {
      clock.now = () => standing;
    }
  });

  it('says which records it left alone and why', async () => {
    const { rows } = await manager.records(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }));
    const stage = manager.session.stages.find(({ name }) => name === 'Survey booked');
    const job = await run(manager, {
      object: 'deal',
      selection: { ids: rows.map(({ id }) => id) },
      action: { do: 'change', values: { stage: stage?.id } },
    });
    const others = rows.filter(({ pipeline }) => pipeline !== stage?.pipeline);
    expect(job.refused).toBe(others.length);
    expect(job.refusals[0].reason).toBe('Survey booked is a stage of another pipeline.');
    expect(
      (await manager.records(ask('deal', { field: 'stage', is: 'anyOf', value: [Number(stage?.id)] }))).total,
    ).toBeGreaterThanOrEqual(rows.length - others.length);
  });

  it('plans an activity on each, for its owner', async () => {
    const { rows } = await manager.records(
      ask('lead', { field: 'status', is: 'anyOf', value: ['untouched'] }),
    );
    const job = await run(manager, {
      object: 'lead',
      selection: { ids: rows.map(({ id }) => id) },
      action: {
        do: 'plan',
        activity: {
          name: 'Ring about the spring fair',
          kind: 'meeting',
          dueOn: '2026-11-30',
          place: 'Sluice hall',
        },
      },
    });
    const planned = await manager.records(
      ask('activity', { field: 'name', is: 'is', value: 'Ring about the spring fair' }),
    );
    expect([job.changed, planned.total]).toEqual([rows.length, rows.length]);
    for (const activity of planned.rows) {
      expect(rows.find(({ id }) => id === activity.lead)?.owner).toBe(activity.owner);
      expect(activity.place).toBe('Sluice hall');
    }
  });

  it('deletes into the bin, from which each comes back with its links', async () => {
    const { rows } = await rep.records(ask('contact', { field: 'account', is: 'isNotEmpty' }), 4);
    await run(rep, {
      object: 'contact',
      selection: { ids: rows.map(({ id }) => id) },
      action: { do: 'delete' },
    });
    const { body } = await rep.call('get', '/bin/contacts').expect(200);
    const { entries } = body as { entries: { id: number; deletedBy: number; until: string | null }[] };
    expect(entries.map(({ id }) => id).sort()).toEqual(rows.map(({ id }) => id).sort());
    expect(entries[0]).toMatchObject({ deletedBy: rep.id, until: null });
    await rep.call('post', '/bin/restore', { object: 'contact', id: rows[0].id }).expect(200);
    const back = (await rep.call('get', `/contacts/${rows[0].id}`).expect(200)).body as { record: AnyRecord };
    expect(back.record).toMatchObject({ account: rows[0].account, name: rows[0].name });
    await rep.call('post', '/bin/restore', { object: 'contact', id: rows[0].id }).expect(404);
  });
});

describe('the bin', () => {
  it('shows and gives back nothing out of reach', async () => {
    const outsider = await Caller.signIn(server, 'greta.lindqvell');
    const [hidden] = (await outsider.records(ask('lead'), 1)).rows;
    await outsider.against(hidden.version, 'delete', `/leads/${hidden.id}`).expect(200);
    const { body } = await rep.call('get', '/bin/leads').expect(200);
    expect((body as { entries: { id: number }[] }).entries.map(({ id }) => id)).not.toContain(hidden.id);
    await rep.call('post', '/bin/restore', { object: 'lead', id: hidden.id }).expect(404);
    await outsider.call('post', '/bin/restore', { object: 'lead', id: hidden.id }).expect(200);
  });

  it.each(['/bin/spoons', '/bin/stages'])('has no part called %s', async (path) => {
    await rep.call('get', path).expect(404);
  });
});

describe('bad input', () => {
  const good = { object: 'lead', selection: { ids: [1] }, action: { do: 'delete' } };
  it.each<[string, object]>([
    ['no selection', { ...good, selection: undefined }],
    ['an empty selection', { ...good, selection: { ids: [] } }],
    ['an unknown action', { ...good, action: { do: 'explode' } }],
    ['an unknown object', { ...good, object: 'stage' }],
    ['a change of nothing', { ...good, action: { do: 'change', values: {} } }],
    ['a question of another object', { ...good, selection: { question: all('deal') } }],
    ['a question that is none', { ...good, selection: { question: { object: 'lead' } } }],
  ])('%s is refused', async (_, request) => {
    await rep.call('post', '/bulk', request).expect(422);
  });

  it('a field that is none is refused on every record, and nothing is written', async () => {
    const before = await snapshot('lead');
    const ids = (await rep.records(ask('lead'), 3)).rows.map(({ id }) => id);
    const job = await run(rep, {
      object: 'lead',
      selection: { ids },
      action: { do: 'change', values: { shoeSize: 4 } },
    });
    expect(job).toMatchObject({ changed: 0, refused: 3 });
    expect(await snapshot('lead')).toEqual(before);
  });

  it('records of others look like records that are not there', async () => {
    const outsider = await Caller.signIn(server, 'greta.lindqvell');
    const [hidden] = (await outsider.records(ask('lead'), 1)).rows;
    const { body } = await rep
      .call('post', '/bulk', { ...good, selection: { ids: [hidden.id, 999_999] } })
      .expect(409);
    expect(body).toMatchObject({ detail: 'There is no record in this selection any more.' });
    await outsider.call('get', `/leads/${hidden.id}`).expect(200);
  });

  it('a job is its starter’s own', async () => {
    const ids = (await rep.records(ask('lead'), 1)).rows.map(({ id }) => id);
    const job = await run(rep, {
      object: 'lead',
      selection: { ids },
      action: { do: 'tag', add: ['own'], remove: [] },
    });
    await manager.call('get', `/jobs/${job.id}`).expect(404);
    await manager.call('post', `/jobs/${job.id}/cancel`).expect(404);
  });
});

describe('closing many deals', () => {
  const lost = { outcome: 'lost', lossReason: 'timing' };
  const close = (ids: readonly number[], closing: object) => ({
    object: 'deal',
    selection: { ids },
    action: { do: 'close', closing },
  });
  const openDeals = async (limit: number) =>
    (await operations.records(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }), limit)).rows;

  it('tells what it would do, and asks for what closing one asks for', async () => {
    const [one, two] = await openDeals(2);
    const { body } = await operations
      .call('post', '/bulk/preview', close([one.id, two.id], lost))
      .expect(200);
    expect((body as BulkPreview).examples[0]).toMatchObject({
      before: { outcome: 'open' },
      after: { outcome: 'lost' },
    });
    for (const closing of [
      {},
      { outcome: 'open' },
      { outcome: 'lost' },
      { outcome: 'won', lossReason: 'timing' },
      { outcome: 'won', closedOn: 'soon' },
    ])
      await operations.call('post', '/bulk', close([one.id], closing)).expect(422);
    for (const closing of [
      { outcome: 'lost', lossReason: 'because' },
      { outcome: 'won', closedOn: '2027-01-01' },
      { outcome: 'won', closedOn: '2019-01-01' },
      { ...lost, tryAgainOn: '2020-01-01' },
    ]) {
      const job = await run(operations, close([one.id], closing));
      expect([job.changed, job.refused]).toEqual([0, 1]);
    }
    const contact = { ...close([1], lost), object: 'contact' };
    expect((await run(operations, contact)).refusals[0].reason).toContain('Only deals');
  });

  it('leaves what has ended, names it, and is undone as one', async () => {
    const [one, two, three] = await openDeals(3);
    await operations.against(one.version, 'post', `/deals/${one.id}/win`, {}).expect(200);
    const job = await run(
      operations,
      close([one.id, two.id, three.id], { ...lost, tryAgainOn: '2026-12-01' }),
    );
    expect(job.changed).toBe(2);
    expect(job.refusals).toEqual([
      expect.objectContaining({ id: one.id, reason: expect.stringContaining('won already') as string }),
    ]);
    const planned = { ...ask('activity', { field: 'deal', is: 'anyOf', value: [two.id, three.id] }) };
    const again = (await operations.records(planned)).rows.filter(({ dueOn }) => dueOn === '2026-12-01');
    expect(again).toHaveLength(2);
    await operations.call('post', `/units/${job.unit ?? 0}/undo`).expect(200);
    const { body } = await operations.call('get', `/deals/${two.id}`).expect(200);
    expect(body).toMatchObject({ record: { outcome: 'open', closedOn: null, lossReason: null } });
  });

  it('closes five thousand at once, with their stage histories, and opens them again', async () => {
    const [{ pipeline, stage, account }] = await openDeals(1);
    const { value: made } = await server.app
      .get(Door)
      .write({ actor: systemActor, through: 'setup' }, async (unit) => {
        const ids: number[] = [];
        for (let count = 0; count < 5000; count += 1) {
          const deal = { name: `Many ${count}`, pipeline, stage, account, value: 100, currency: 'GBP' };
          ids.push((await unit.create('deal', { ...deal, closeOn: '2026-12-31', owner: operations.id })).id);
        }
        return ids;
      });
    const job = await run(operations, close(made, lost));
    expect([job.changed, job.refused]).toEqual([5000, 0]);
    const ofThem = (outcome: string) =>
      operations.records(
        ask(
          'deal',
          { field: 'name', is: 'startsWith', value: 'Many ' },
          { field: 'outcome', is: 'anyOf', value: [outcome] },
        ),
        1,
      );
    expect((await ofThem('lost')).total).toBe(5000);
    const { body } = await operations.call('get', `/deals/${made[4999]}/history`).expect(200);
    expect((body as DealHistory).periods.every(({ leftAt }) => leftAt !== null)).toBe(true);
    const { value: undone } = (await operations.call('post', `/units/${job.unit ?? 0}/undo`).expect(200))
      .body as Written<Undone>;
    if (undone.job) await ended(operations, undone.job);
    expect((await ofThem('open')).total).toBe(5000);
  }, 360_000);
});
