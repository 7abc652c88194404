import fc from 'fast-check';
import { type AnyRecord, type Undone, type Written } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type StagePeriodRow } from '../../platform/database/rows';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());
afterEach(() => jest.restoreAllMocks());

const newDeal = async (more: object = {}): Promise<AnyRecord> => {
  const { pipeline } = rep.session.stages[0];
  const stages = rep.session.stages.filter((stage) => stage.pipeline === pipeline);
  const values = { name: 'Climbing', value: 1000, currency: 'GBP', closeOn: '2026-12-20', owner: rep.id };
  const body = { ...values, pipeline, stage: stages[0].id, ...more };
  const answer = await rep.call('post', '/deals', body).expect(201);
  return (answer.body as Written<AnyRecord>).value;
};
const stagePeriodsOf = async (deal: number) => {
  const rows = await server.app
    .get(Database)
    .reading.getRepository<StagePeriodRow>('stagePeriod')
    .find({
      where: { deal },
      order: { id: 'ASC' },
    });
  return rows.map(({ stage, enteredAt, leftAt }) => ({ stage, enteredAt, leftAt }));
};

type Step = { move: number } | { close: 'win' | 'lose' } | { reopen: true } | { undo: number };

describe('the stage history', () => {
  const anyStep: fc.Arbitrary<Step> = fc.oneof(
    { weight: 4, arbitrary: fc.record({ move: fc.nat(3) }) },
    { weight: 1, arbitrary: fc.record({ close: fc.constantFrom('win' as const, 'lose' as const) }) },
    { weight: 1, arbitrary: fc.record({ reopen: fc.constant(true as const) }) },
    { weight: 4, arbitrary: fc.record({ undo: fc.nat(9) }) },
  );

  it('is what is left of all moves when those undone are taken away, after any row of undo and redo', async () => {
    const clock = server.app.get(Clock);
    await fc.assert(
      fc.asyncProperty(fc.array(anyStep, { minLength: 3, maxLength: 12 }), async (steps) => {
        let minute = 0;
        jest
          .spyOn(clock, 'now')
          .mockImplementation(
            () =>
              `2026-11-19T09:${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}.000Z`,
          );
        const deal = await newDeal();
        const stages = rep.session.stages
          .filter(({ pipeline }) => pipeline === deal.pipeline)
          .map(({ id }) => id);
        const path = `/deals/${deal.id}`;
        const now = async () => ((await rep.call('get', path)).body as { record: AnyRecord }).record;
        // What was done, each with whether it stands; undoing turns that over.
        const done: { unit: number; at: string; stage?: number; outcome?: string; stands: boolean }[] = [
          { unit: 0, at: clock.now(), stage: stages[0], outcome: 'open', stands: true },
        ];
        const toggles = new Map<number, (typeof done)[number]>();
        for (const step of steps) {
          minute += 1;
          const { version, outcome } = await now();
          let answer;
          if ('undo' in step) {
            const units = [...toggles.keys()];
            if (units.length === 0) continue;
            const target = units[step.undo % units.length];
            answer = await rep.call('post', `/units/${target}/undo`);
            if (answer.status !== 200 || (answer.body as Written<Undone>).value.records === 0) continue;
            const toggled = toggles.get(target) as (typeof done)[number];
            toggled.stands = !toggled.stands;
            toggles.delete(target);
            toggles.set((answer.body as Written<Undone>).unit, toggled);
            continue;
          }
          if ('move' in step)
            answer = await rep.against(version, 'patch', path, { stage: stages[step.move] });
          else if ('close' in step)
            answer = await rep.against(
              version,
              'post',
              `${path}/${step.close}`,
              step.close === 'win' ? {} : { lossReason: 'price' },
            );
          else answer = await rep.against(version, 'post', `${path}/reopen`);
          if (answer.status !== 200) continue;
          const { unit, value } = answer.body as Written<AnyRecord>;
          if (value.version === version) continue;
          const entry = {
            unit,
            at: clock.now(),
            stands: true,
            ...('move' in step ? { stage: Number(value.stage) } : { outcome: String(value.outcome) }),
          };
          done.push(entry);
          toggles.set(unit, entry);
          expect(outcome).toBeDefined();
        }
        const wanted: { stage: number; enteredAt: string; leftAt: string | null }[] = [];
        let [stage, outcome] = [stages[0], 'open'];
        for (const each of done.filter(({ stands }) => stands)) {
          stage = each.stage ?? stage;
          outcome = each.outcome ?? outcome;
          const last = wanted.at(-1);
          const isIn = last?.leftAt === null && last.stage === stage && outcome === 'open';
          if (isIn) continue;
          if (last?.leftAt === null) last.leftAt = each.at;
          if (outcome === 'open') wanted.push({ stage, enteredAt: each.at, leftAt: null });
        }
        expect(await stagePeriodsOf(deal.id)).toEqual(wanted);
        const { stage: at, outcome: ended } = await now();
        expect([at, ended]).toEqual([stage, outcome]);
      }),
      {
        numRuns: 25,
        // Won, undone, won and reopened, and the first winning done again: it was won and reopened since.
        examples: [
          [
            [
              { move: 1 },
              { close: 'win' },
              { undo: 1 },
              { undo: 0 },
              { close: 'win' },
              { reopen: true },
              { move: 0 },
              { undo: 0 },
            ],
          ],
        ],
      },
    );
  });

  it('of a deal moved, undone and redone has left the first stage', async () => {
    const deal = await newDeal();
    const [first, , , fourth] = rep.session.stages.filter(({ pipeline }) => pipeline === deal.pipeline);
    const { body } = await rep.against(1, 'patch', `/deals/${deal.id}`, { stage: fourth.id }).expect(200);
    const { body: undone } = await rep
      .call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`)
      .expect(200);
    await rep.call('post', `/units/${(undone as Written<Undone>).unit}/undo`).expect(200);
    expect((await stagePeriodsOf(deal.id)).map(({ stage, leftAt }) => [stage, leftAt === null])).toEqual([
      [first.id, false],
      [fourth.id, true],
    ]);
  });
});

describe('an open deal', () => {
  const deleted = async (): Promise<AnyRecord> => {
    const { body } = await rep
      .call('post', '/accounts', { name: 'Soon Gone', relationship: 'prospect', owner: rep.id })
      .expect(201);
    return (body as Written<AnyRecord>).value;
  };

  it.each(['deleted', 'out of reach'])(
    'whose account is %s can be worked on and closed all the same',
    async (how) => {
      const account = await deleted();
      const deal = await newDeal({ account: account.id });
      if (how === 'deleted') await rep.against(1, 'delete', `/accounts/${account.id}`).expect(200);
      else {
        const [other] = operations.session.people.filter(({ name }) => name === 'Greta Lindqvell');
        await operations.against(1, 'patch', `/accounts/${account.id}`, { owner: other.id }).expect(200);
      }
      const call = { name: 'Call', kind: 'task', dueOn: '2026-11-21', owner: rep.id, deal: deal.id };
      const { body } = await rep.call('post', '/activities', call).expect(201);
      const { id, version, account: inherited } = (body as Written<AnyRecord>).value;
      expect(inherited).toBe(account.id);
      const ending = { result: 'Said so', next: { name: 'Then', kind: 'task', dueOn: '2026-11-25' } };
      await rep.against(version, 'post', `/activities/${id}/done`, ending).expect(200);
      await rep.call('post', '/notes', { body: 'A word', deal: deal.id }).expect(201);
      const lost = { lossReason: 'price', tryAgainOn: '2027-03-01' };
      const { version: last } = ((await rep.call('get', `/deals/${deal.id}`)).body as { record: AnyRecord })
        .record;
      await rep.against(last, 'post', `/deals/${deal.id}/lose`, lost).expect(200);
    },
  );

  it('takes no link that somebody gives and that leads nowhere', async () => {
    const account = await deleted();
    await rep.against(1, 'delete', `/accounts/${account.id}`).expect(200);
    const deal = await newDeal();
    const call = { name: 'Call', kind: 'task', dueOn: '2026-11-21', owner: rep.id, deal: deal.id };
    await rep.call('post', '/activities', { ...call, account: account.id }).expect(422);
    await rep.call('post', '/activities', { ...call, deal: 999_999 }).expect(422);
  });

  it('can be undone back to somebody who has left since', async () => {
    const { body: made } = await operations
      .call('post', '/people', {
        name: 'Leaver',
        email: 'leaver@brackwater.example',
        role: 'rep',
        active: true,
      })
      .expect(201);
    const leaver = (made as Written<AnyRecord>).value;
    const { body } = await operations
      .call('post', '/accounts', { name: 'Handed On', relationship: 'prospect', owner: leaver.id })
      .expect(201);
    const { id } = (body as Written<AnyRecord>).value;
    const { body: changed } = await operations
      .against(1, 'patch', `/accounts/${id}`, { owner: operations.id })
      .expect(200);
    await operations.against(1, 'patch', `/people/${leaver.id}`, { active: false }).expect(200);
    const { unit } = changed as Written<AnyRecord>;
    await operations.call('post', `/units/${unit}/undo`).expect(200);
    const { body: back } = await operations.call('get', `/accounts/${id}`).expect(200);
    expect((back as { record: AnyRecord }).record.owner).toBe(leaver.id);
  });
});
