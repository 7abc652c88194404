import {
  ask,
  countsIn,
  readinessOf,
  upkeepKindsOf,
  upkeepQuestion,
  upkeepQuestions,
  type AnyRecord,
  type FiguresAnswer,
  type UpkeepCheck,
  type UpkeepCounts,
  type UpkeepTrend,
} from '@zawn/core';
import { NightlyJobs } from '../../kernel/jobs/nightly-jobs';
import { Caller, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const add = (body: object, who = operations) => who.call('post', '/upkeep-checks', body);
const norwegian = { field: 'country', is: 'anyOf', value: ['NO'] };
const question = JSON.stringify({ version: 1, object: 'account', where: norwegian });

describe('readiness week by week', () => {
  const trendOf = async (who: Caller) =>
    ((await who.call('get', '/upkeep/trend').expect(200)).body as UpkeepTrend).weeks;

  it('is kept each night, of what is within reach', async () => {
    await server.app.get(NightlyJobs).done();
    const [all, own] = [await trendOf(operations), await trendOf(rep)];
    expect(all).toHaveLength(12);
    expect(own).toHaveLength(12);
    expect(all.at(-1)?.from).toBe('2026-11-16');
    const kinds = upkeepKindsOf([]);
    const asked = upkeepQuestions(kinds);
    const answers = [];
    for (const { question } of asked) {
      const { body } = await rep.call('post', '/questions/figures', { questions: [question] }).expect(200);
      answers.push((body as { answers: FiguresAnswer[] }).answers[0]);
    }
    const mine = countsIn(asked, answers).byOwner.get(rep.id) as UpkeepCounts;
    expect(own.at(-1)?.ready).toBeCloseTo(readinessOf(kinds, mine).ready ?? NaN, 10);
    expect(all.every(({ ready }) => ready > 0 && ready <= 1)).toBe(true);
  });
});

describe('what upkeep looks for', () => {
  it('is counted together as each of its lists has records', async () => {
    const asked = upkeepQuestions(upkeepKindsOf([]));
    const { body } = await operations
      .call('post', '/questions/figures', { questions: asked.map(({ question }) => question) })
      .expect(200);
    const { all } = countsIn(asked, (body as { answers: FiguresAnswer[] }).answers);
    for (const { key, of, where } of upkeepKindsOf([])) {
      const [row] = await operations.figures({ ...upkeepQuestion(of, where), measures: [{ as: 'count' }] });
      expect([key, all.wrong[key]]).toEqual([key, row.figures[0]]);
    }
  });

  it('is counted by questions that are answered for everybody, each opening as many records', async () => {
    for (const { key, of, where } of upkeepKindsOf([])) {
      const asked = upkeepQuestion(of, where);
      const [row] = await operations.figures({ ...asked, measures: [{ as: 'count' }] });
      const { rows, next } = await operations.records(asked);
      expect([key, row.figures[0]]).toEqual([key, next === null ? rows.length : expect.any(Number)]);
    }
  });

  it('is what the organisation says: limits, kinds put aside, and kinds of its own', async () => {
    await add({ kind: 'untouched', limit: 10 }).expect(201);
    await add({ kind: 'stale', off: true }).expect(201);
    const own = valueOf<AnyRecord>(await add({ label: 'Norwegian accounts', question }).expect(201));
    const { rows } = await rep.records(ask('upkeepCheck'));
    const kinds = upkeepKindsOf(rows as unknown as UpkeepCheck[]);
    expect(kinds.map(({ key }) => key)).toContain(`own${own.id}`);
    expect(kinds.map(({ key }) => key)).not.toContain('stale');
    expect(kinds.find(({ key }) => key === 'untouched')?.label).toContain('more than 10 days');
  });

  it.each([
    ['a kind that there is not', { kind: 'unheardOf' }],
    ['a limit where there is none', { kind: 'adrift', limit: 3 }],
    ['a limit of nothing', { kind: 'longOpen', limit: 0 }],
    ['a question of a kind that has its own', { kind: 'noValue', question }],
    ['no question', { label: 'Empty' }],
    ['no name', { question }],
    ['a question that is none', { label: 'Odd', question: '{"version":1}' }],
    [
      'a question about a field that is not there',
      { label: 'Odd', question: question.replace('country', 'planet') },
    ],
    [
      'a question about what nobody owns',
      {
        label: 'Odd',
        question: question.replace('account', 'stage').replace('country', 'name').replace('anyOf', 'is'),
      },
    ],
    ['everything there is', { label: 'Odd', question: '{"version":1,"object":"account"}' }],
  ])('is not %s', async (_what, body) => {
    await add(body).expect(422);
  });

  it('is said once of each kind, and by those who may', async () => {
    await add({ kind: 'noAccount', off: true }).expect(201);
    await add({ kind: 'noAccount', off: false }).expect(409);
    await add({ kind: 'noContact', off: true }, rep).expect(403);
  });
});
